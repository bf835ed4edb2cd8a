#pragma once

#include "app/document/document.h"
#include "app/sheet/profile_form.h"

namespace hasami {

/// A part of the job's machine profile among the sheet's settings. Each change is one undo step.
class ProfilePanel : public ProfileForm {
    Q_OBJECT
public:
    ProfilePanel(Document& document, const char* heading, QWidget* parent = nullptr);

    /// To be called when all fields are there.
    void showJob();

protected:
    Document& document_;
};

} // namespace hasami
