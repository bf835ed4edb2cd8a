#include "app/sheet/machine_panel.h"

#include "app/kit/named.h"
#include "app/kit/save_dialog.h"
#include "app/paint/line_names.h"
#include "app/sheet/change_profile.h"
#include "app/words/words.h"
#include "base/error.h"
#include "base/json_reader.h"
#include "files/file_name.h"
#include "files/profile_file.h"
#include "files/safe_write.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFileDialog>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

#include <cmath>

namespace hasami {

namespace {

QString filter() {
    return tr("Machine profiles (*.json)");
}

} // namespace

MachinePanel::MachinePanel(Document& document, QWidget* parent)
    : SettingsGroup(document, N_("Machine"), parent), known_(knownProfiles()), machine_(new QComboBox),
      what_(new QComboBox), name_(new QLineEdit) {
    addMachines();
    addNames();
    addTools();
    tabs_ =
        addCheck(N_("It makes tabs by itself"),
                 N_("On: perforated lines are solid in the files, and the machine lifts its knife for the "
                    "tabs. Off: the files hold only what is cut"),
                 [](Job& job, bool isOn) { job.profile.cutter.makesTabs = isOn; });
    doubts_ = addText();
    doubts_->setObjectName("Doubts about names");
    connect(&document, &Document::jobChanged, this, &MachinePanel::showJob);
    showJob();
}

void MachinePanel::addMachines() {
    for (const Profile& profile : known_)
        machine_->addItem(QString::fromStdString(profile.name));
    for (QComboBox* box : {machine_, what_})
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon); // as wide as the panel
    nameControl(
        *machine_, N_("Machine"),
        N_("What the machine reaches, how it marks and cuts: start values, all of which can be changed"),
        " choice");
    connect(machine_, &QComboBox::activated, this, [this](int place) {
        if (place < int(known_.size()))
            change(tr("%1: %2").arg(tr("Machine"), machine_->itemText(place)),
                   [&](Profile& profile) { profile = known_[std::size_t(place)]; });
    });
    addWide(machine_);
    auto* open = new QPushButton(tr("Open…"));
    auto* save = new QPushButton(tr("Save as…"));
    open->setObjectName("Open profile");
    save->setObjectName("Save profile");
    open->setToolTip(tr("Take the profile of a machine from a file"));
    save->setToolTip(tr("Keep this profile as a file, for other jobs and other people"));
    for (QPushButton* button : {open, save})
        button->setProperty("role", "small");
    connect(open, &QPushButton::clicked, this, &MachinePanel::open);
    connect(save, &QPushButton::clicked, this, &MachinePanel::save);
    auto* buttons = new QWidget;
    auto* row = new QHBoxLayout(buttons);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    row->addWidget(open);
    row->addWidget(save);
    addWide(buttons);
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
    name_->setMaxLength(127);
    connect(name_, &QLineEdit::editingFinished, this, &MachinePanel::takeName);
    add(*name_, N_("Spot name"), N_("The exact name that the printer's software expects, letter by letter"));
}

QuantityField* MachinePanel::addTool(const char* name, const char* effect, QuantityKind kind, double least,
                                     double most, std::function<double(const Tool&)> value,
                                     std::function<void(Tool&, double)> set) {
    QuantityField* field = addField(
        name, effect, kind, least, most, [this, set = std::move(set)](const QString& label, double number) {
            change(tr("%1, %2").arg(what_->currentText(), label), [&](Profile& profile) {
                set(profile.cutter.tools[std::size_t(what_->currentIndex())], number);
            });
        });
    rows_.push_back({field, std::move(value)});
    return field;
}

void MachinePanel::addTools() {
    addTool(
        N_("Tool holder"), N_("The holder that the tool is in; the machine pauses where it changes"),
        QuantityKind::count, 1, 8, [](const Tool& s) { return double(s.holder); },
        [](Tool& s, double v) { s.holder = int(v); });
    addTool(
        N_("Speed in mm/s"), N_("How fast the knife goes"), QuantityKind::number, 1, 10'000,
        [](const Tool& s) { return s.speed; }, [](Tool& s, double v) { s.speed = v; });
    QuantityField* force = addTool(
        N_("Force in g"), N_("How hard the knife presses; 0: as set on the machine"), QuantityKind::number, 0,
        10'000, [](const Tool& s) { return s.force.value_or(0); },
        [](Tool& s, double v) { s.force = v >= 1 ? std::optional(v) : std::nullopt; });
    force->setZeroWord(tr("as set"));
    addTool(
        N_("Passes"), N_("How often the knife goes along the line"), QuantityKind::count, 1, 20,
        [](const Tool& s) { return double(s.passes); }, [](Tool& s, double v) { s.passes = int(v); });
    QuantityField* offset = addTool(
        N_("Blade offset"),
        N_("How far the blade's tip trails behind its holder; 0: the machine compensates for it"),
        QuantityKind::length, 0, 2, [](const Tool& s) { return s.bladeOffset; },
        [](Tool& s, double v) { s.bladeOffset = v; });
    offset->setZeroWord(tr("none"));
    addTool(
        N_("Overcut"), N_("How far a closed line is cut past its start, so that its ends meet"),
        QuantityKind::length, 0, 10, [](const Tool& s) { return s.overcut; },
        [](Tool& s, double v) { s.overcut = v; });
}

bool MachinePanel::showsInk() const {
    return what_->currentIndex() >= int(lineKinds.size());
}

SpotColour& MachinePanel::spotIn(Profile& profile) const {
    const auto place = std::size_t(std::max(what_->currentIndex(), 0));
    if (showsInk())
        return profile.names.inks[place - lineKinds.size()];
    return profile.names.lines[place];
}

void MachinePanel::change(const QString& label, const std::function<void(Profile&)>& change) {
    if (!changeProfile(document_, label, change))
        showJob();
}

void MachinePanel::takeName() {
    const std::string name = name_->text().trimmed().toStdString();
    Profile now = document_.job().profile;
    if (name == spotIn(now).name)
        return;
    change(tr("%1, %2").arg(what_->currentText(), tr("Spot name")),
           [&](Profile& profile) { spotIn(profile).name = name; });
}

void MachinePanel::open() {
    const QString path = QFileDialog::getOpenFileName(this, tr("Open profile"), {}, filter());
    if (path.isEmpty())
        return;
    try {
        const Profile read = readProfile(toPath(path));
        change(tr("%1: %2").arg(tr("Machine"), QString::fromStdString(read.name)),
               [&](Profile& profile) { profile = read; });
    } catch (const InputError& error) {
        Q_EMIT document_.refused(QString::fromStdString(error.what()));
    }
}

void MachinePanel::save() {
    const QString path =
        askWhereToSave(this, tr("Save profile"), machine_->currentText().toLower().replace(' ', '-'),
                       {{tr("Machine profile"), ".json"}});
    if (path.isEmpty())
        return;
    try {
        writeSafely(toPath(path), toJson(document_.job().profile).dump(2) + "\n");
    } catch (const OutputError& error) {
        Q_EMIT document_.refused(QString::fromStdString(error.what()));
    }
}

void MachinePanel::showJob() {
    Profile profile = document_.job().profile;
    const auto found = std::find(known_.begin(), known_.end(), profile);
    while (machine_->count() > int(known_.size()))
        machine_->removeItem(machine_->count() - 1);
    if (found == known_.end())
        machine_->addItem(tr("%1, changed").arg(QString::fromStdString(profile.name)));
    machine_->setCurrentIndex(int(found - known_.begin()));
    if (!name_->hasFocus() || !name_->isModified())
        name_->setText(QString::fromStdString(spotIn(profile).name));
    for (const Row& row : rows_) {
        const auto place = std::size_t(std::max(what_->currentIndex(), 0));
        show(row.field, showsInk() ? 0 : row.value(profile.cutter.tools[place]), !showsInk());
    }
    tabs_->setChecked(profile.cutter.makesTabs);
    QStringList doubts;
    for (const std::string& sentence : doubtsAboutNames(profile))
        doubts << "▲ " + QString::fromStdString(sentence);
    doubts_->setText(doubts.join("\n"));
    doubts_->setVisible(!doubts.isEmpty());
}

} // namespace hasami
