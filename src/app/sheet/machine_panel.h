#pragma once

#include "app/sheet/profile_panel.h"
#include "files/profile_library.h"

class QComboBox;
class QPushButton;

namespace hasami {

/// The machine's profile: a copy of one in the user's library; for each kind of line its tool, for lines and
/// inks the names that the printer's software expects.
class MachinePanel : public ProfilePanel {
    Q_OBJECT
public:
    explicit MachinePanel(Document& document, QWidget* parent = nullptr);

    void edit(); ///< the library's profiles, in a dialog

private:
    void addMachines();
    void addNames();
    void take(const Profile& profile);
    void showMachine();
    void showLibrary();

    /// The line or ink whose name and tool are shown.
    SpotColour& spotIn(Profile& profile) const;
    std::optional<LineKind> shownLine() const;

    ProfileLibrary library_;
    QComboBox *machine_, *what_;
    QPushButton* takeLibrarys_ = nullptr;
    QLabel *differs_ = nullptr, *doubts_ = nullptr;
};

} // namespace hasami
