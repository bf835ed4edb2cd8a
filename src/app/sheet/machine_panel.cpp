#include "app/sheet/machine_panel.h"

#include "app/kit/named.h"
#include "app/paint/line_names.h"
#include "app/sheet/change_profile.h"
#include "app/sheet/profile_editor.h"
#include "app/words/words.h"
#include "files/file_name.h"

#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QStandardPaths>

namespace hasami {

namespace {

std::filesystem::path libraryFolder() {
    return toPath(QStandardPaths::writableLocation(QStandardPaths::GenericDataLocation) + "/hasami/profiles");
}

} // namespace

MachinePanel::MachinePanel(Document& document, QWidget* parent)
    : ProfilePanel(document, N_("Machine"), parent), library_(libraryFolder()), machine_(new QComboBox),
      what_(new QComboBox) {
    addMachines();
    addNames();
    addToolFields(*this, [this] { return shownLine(); });
    addTabsField(*this);
    doubts_ = addText();
    doubts_->setObjectName("Doubts about names");
    connect(&document, &Document::jobChanged, this, &MachinePanel::showMachine);
    showJob();
    showLibrary();
}

void MachinePanel::addMachines() {
    for (QComboBox* box : {machine_, what_})
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon); // as wide as the panel
    nameControl(
        *machine_, N_("Machine"),
        N_("What the machine reaches, how it marks and cuts: start values, all of which can be changed"),
        " choice");
    connect(machine_, &QComboBox::activated, this, [this](int place) {
        if (place < int(library_.entries().size()))
            take(library_.entries()[std::size_t(place)].profile);
    });
    addWide(machine_);
    differs_ = addText();
    differs_->setObjectName("Machine differs");
    takeLibrarys_ = new QPushButton(tr("Take the library's"));
    takeLibrarys_->setObjectName("Take the library's");
    takeLibrarys_->setToolTip(tr("The job takes the profile as it is in the library now"));
    connect(takeLibrarys_, &QPushButton::clicked, this, [this] {
        if (const auto* entry = library_.find(document_.job().profile.name))
            take(entry->profile);
    });
    auto* edit = new QPushButton(tr("Machine profiles…"));
    edit->setObjectName("Edit profiles");
    edit->setToolTip(tr("Change, add, import and export the profiles of machines"));
    connect(edit, &QPushButton::clicked, this, &MachinePanel::edit);
    for (QPushButton* button : {takeLibrarys_, edit}) {
        button->setProperty("role", "small");
        addWide(button);
    }
}

void MachinePanel::addNames() {
    for (const LineKind kind : lineKinds)
        what_->addItem(signOf(kind), nameOf(kind));
    for (const InkKind ink : inkKinds)
        what_->addItem(nameOf(ink));
    what_->setIconSize({28, 16});
    nameControl(*what_, N_("Line or ink"), N_("The line or ink whose name and tool stand below"), " choice");
    connect(what_, &QComboBox::currentIndexChanged, this, &MachinePanel::showJob);
    addWide(what_);
    addLine(
        {N_("Spot name"), N_("The exact name that the printer's software expects, letter by letter")}, {},
        [this](const Profile& profile) {
            Profile shown = profile;
            return spotIn(shown).name;
        },
        [this](Profile& profile, const std::string& name) { spotIn(profile).name = name; });
}

std::optional<LineKind> MachinePanel::shownLine() const {
    const auto place = std::size_t(std::max(what_->currentIndex(), 0));
    return place < lineKinds.size() ? std::optional(lineKinds[place]) : std::nullopt;
}

SpotColour& MachinePanel::spotIn(Profile& profile) const {
    if (const auto line = shownLine())
        return profile.names.lines[std::size_t(*line)];
    return profile.names.inks[std::size_t(what_->currentIndex()) - lineKinds.size()];
}

void MachinePanel::take(const Profile& taken) {
    changeProfile(document_, tr("%1: %2").arg(tr("Machine"), QString::fromStdString(taken.name)),
                  [&](Profile& profile) { profile = taken; });
    showMachine();
}

void MachinePanel::edit() {
    ProfileEditor(document_, library_, this).exec();
    showLibrary();
}

void MachinePanel::showLibrary() {
    machine_->clear();
    for (const ProfileLibrary::Entry& entry : library_.entries())
        machine_->addItem(QString::fromStdString(entry.profile.name));
    showMachine();
}

void MachinePanel::showMachine() {
    const Profile& profile = document_.job().profile;
    const auto& entries = library_.entries();
    const auto found =
        std::ranges::find(entries, profile, [](const ProfileLibrary::Entry& entry) { return entry.profile; });
    while (machine_->count() > int(entries.size()))
        machine_->removeItem(machine_->count() - 1);
    if (found == entries.end())
        machine_->addItem(tr("%1, changed").arg(QString::fromStdString(profile.name)));
    machine_->setCurrentIndex(int(found - entries.begin()));
    const bool isInLibrary = library_.find(profile.name) != nullptr;
    differs_->setVisible(found == entries.end());
    takeLibrarys_->setVisible(found == entries.end() && isInLibrary);
    differs_->setText(isInLibrary ? tr("The job's own copy differs from the library's.")
                                  : tr("This profile is the job's own: it is not in the library."));
    QStringList doubts;
    for (const std::string& sentence : doubtsAboutNames(profile))
        doubts << "▲ " + QString::fromStdString(sentence);
    doubts_->setText(doubts.join("\n"));
    doubts_->setVisible(!doubts.isEmpty());
}

} // namespace hasami
