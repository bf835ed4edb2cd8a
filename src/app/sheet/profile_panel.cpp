#include "app/sheet/profile_panel.h"

#include "app/sheet/change_profile.h"

namespace hasami {

ProfilePanel::ProfilePanel(Document& document, const char* heading, QWidget* parent)
    : ProfileForm(
          heading,
          [this](const QString& label, const std::function<void(Profile&)>& change, const QString& run) {
              if (!changeProfile(document_, label, change, run))
                  showJob();
          },
          parent),
      document_(document) {
    connect(&document, &Document::jobChanged, this, &ProfilePanel::showJob);
}

void ProfilePanel::showJob() {
    show(document_.job().profile, document_.job().unit);
}

} // namespace hasami
