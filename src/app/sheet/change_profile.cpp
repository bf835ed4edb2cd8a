#include "app/sheet/change_profile.h"

#include "base/error.h"
#include "base/json_reader.h"

namespace hasami {

bool changeProfile(Document& document, const QString& label, const std::function<void(Profile&)>& change,
                   const QString& run) {
    Profile changed = document.job().profile;
    change(changed);
    try {
        const nlohmann::json json = toJson(changed);
        profileFromJson({json, "profile"});
    } catch (const InputError& error) {
        Q_EMIT document.refused(QString::fromStdString(error.what()));
        return false;
    }
    if (run.isEmpty())
        document.endRun();
    document.change(
        label, [&](Job& job) { job.profile = changed; }, run);
    return true;
}

} // namespace hasami
