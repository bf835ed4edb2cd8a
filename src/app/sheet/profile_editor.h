#pragma once

#include "app/document/document.h"
#include "app/sheet/profile_form.h"
#include "files/profile_library.h"

#include <QDialog>

class QListWidget;
class QPushButton;

namespace hasami {

class ProfilePicture;

/// The machine profiles of the user's library, each with its printer, cutter, marks and names, and a picture
/// of a sheet. Changes are kept at once; the job has its own copy, which is replaced on request alone.
class ProfileEditor : public QDialog {
    Q_OBJECT
public:
    ProfileEditor(Document& document, ProfileLibrary& library, QWidget* parent = nullptr);

protected:
    void keyPressEvent(QKeyEvent* event) override;

private:
    void addForms(QWidget& place);
    /// One that changes the chosen profile.
    ProfileForm* newForm();
    ProfileForm* addPage(class QTabWidget& pages, const QString& title);
    QPushButton* addButton(class QLayout& row, const char* name, const char* effect,
                           void (ProfileEditor::*act)());
    void addPrinterFields(ProfileForm& form);
    void addNameFields(ProfileForm& form);

    const ProfileLibrary::Entry* chosen() const;
    /// Does what may fail, and says so where it does.
    bool tried(const std::function<void()>& act);
    void change(const std::function<void(Profile&)>& change);
    void preview(const std::function<void(Profile&)>& change);
    void keep(const Profile& profile, const std::string& before);
    void undo();
    void showLibrary(const std::string& name);
    void showChosen();

    void makeNew();
    void duplicate();
    void forget();
    void importFile();
    void exportFile();
    void keepJobs();
    void useForJob();

    Document& document_;
    ProfileLibrary& library_;
    QListWidget* list_;
    ProfilePicture* picture_;
    QLabel *notice_, *about_;
    std::vector<ProfileForm*> forms_;
    QComboBox* tool_ = nullptr;
    QPushButton *forget_, *keepJobs_, *use_, *undo_;
    std::vector<std::pair<std::string, Profile>> before_; ///< what each change replaced: the name after it
};

} // namespace hasami
