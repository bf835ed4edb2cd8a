#include "app/sheet/machine_panel.h"

#include "app/kit/save_dialog.h"
#include "app/paint/line_names.h"
#include "base/error.h"
#include "base/json_reader.h"
#include "files/file_name.h"
#include "files/read_file.h"
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

const QString filter = "Machine profiles (*.json)";
constexpr std::size_t mostBytes = 1 << 20;

Profile readProfile(const std::filesystem::path& path) {
    const std::vector<std::byte> bytes = readFile(path, mostBytes);
    try {
        const nlohmann::json json = parseJson({reinterpret_cast<const char*>(bytes.data()), bytes.size()});
        return profileFromJson({json, "profile"});
    } catch (const InputError& error) {
        throw InputError(fileName(path) + " is no machine profile: " + error.what());
    }
}

} // namespace

MachinePanel::MachinePanel(Document& document, QWidget* parent)
    : QWidget(parent), document_(document), known_(knownProfiles()), machine_(new QComboBox),
      what_(new QComboBox), name_(new QLineEdit), tabs_(new QCheckBox("It makes tabs by itself")),
      doubts_(new QLabel) {
    auto* layout = new QGridLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setVerticalSpacing(8);
    layout->setColumnStretch(0, 1);
    auto* heading = new QLabel("Machine");
    heading->setProperty("role", "heading");
    layout->addWidget(heading, 0, 0, 1, 2);
    addMachines(layout);
    addNames(layout);
    addTools(layout);
    tabs_->setObjectName("It makes tabs by itself");
    tabs_->setToolTip(
        "Perforated lines are solid in the files, and the machine lifts its knife for the tabs; "
        "else the files hold what is cut, and nothing else");
    connect(tabs_, &QCheckBox::clicked, this, [this](bool checked) {
        changeProfile(checked ? "Tabs by the machine" : "Tabs by the file",
                      [&](Profile& profile) { profile.cutter.makesTabs = checked; });
    });
    layout->addWidget(tabs_, layout->rowCount(), 0, 1, 2);
    doubts_->setProperty("role", "quiet");
    doubts_->setWordWrap(true);
    doubts_->setObjectName("Doubts about names");
    layout->addWidget(doubts_, layout->rowCount(), 0, 1, 2);
    connect(&document, &Document::jobChanged, this, &MachinePanel::showJob);
    showJob();
}

void MachinePanel::addMachines(QGridLayout* layout) {
    for (const Profile& profile : known_)
        machine_->addItem(QString::fromStdString(profile.name));
    machine_->setObjectName("Machine choice");
    machine_->setAccessibleName("Machine");
    machine_->setToolTip(
        "What the machine reaches, how it marks and cuts: start values, all of which can be changed");
    connect(machine_, &QComboBox::activated, this, [this](int place) {
        if (place < int(known_.size()))
            changeProfile("Machine: " + machine_->itemText(place),
                          [&](Profile& profile) { profile = known_[std::size_t(place)]; });
    });
    layout->addWidget(machine_, 1, 0, 1, 2);
    auto* open = new QPushButton("Open…");
    auto* save = new QPushButton("Save as…");
    open->setObjectName("Open profile");
    save->setObjectName("Save profile");
    open->setToolTip("Take the profile of a machine from a file");
    save->setToolTip("Keep this profile as a file, for other jobs and other people");
    for (QPushButton* button : {open, save})
        button->setProperty("role", "small");
    connect(open, &QPushButton::clicked, this, &MachinePanel::open);
    connect(save, &QPushButton::clicked, this, &MachinePanel::save);
    auto* buttons = new QHBoxLayout;
    buttons->setSpacing(6);
    buttons->addWidget(open);
    buttons->addWidget(save);
    layout->addLayout(buttons, 2, 0, 1, 2);
}

void MachinePanel::addNames(QGridLayout* layout) {
    for (const LineKind kind : lineKinds)
        what_->addItem(signOf(kind), nameOf(kind));
    for (const InkKind ink : inkKinds)
        what_->addItem(nameOf(ink));
    what_->setIconSize({28, 16});
    what_->setObjectName("Line or ink choice");
    what_->setAccessibleName("Line or ink");
    what_->setToolTip("Whose name and tool stand below");
    connect(what_, &QComboBox::currentIndexChanged, this, &MachinePanel::showJob);
    layout->addWidget(what_, 3, 0, 1, 2);
    auto* label = new QLabel("Spot name");
    label->setBuddy(name_);
    name_->setObjectName("Spot name field");
    name_->setAccessibleName("Spot name");
    name_->setToolTip("The exact name that the printer's software knows it by: each letter counts");
    name_->setMaxLength(127);
    connect(name_, &QLineEdit::editingFinished, this, &MachinePanel::takeName);
    layout->addWidget(label, 4, 0);
    layout->addWidget(name_, 4, 1);
}

void MachinePanel::addRow(QGridLayout* layout, const QString& name, const QString& effect,
                          QuantityField* field, std::function<double(const Tool&)> value,
                          std::function<void(Tool&, double)> set) {
    auto* label = new QLabel(name);
    label->setBuddy(field);
    field->setObjectName(name + " field");
    field->setAccessibleName(name);
    field->setToolTip(effect);
    const int row = layout->rowCount();
    layout->addWidget(label, row, 0);
    layout->addWidget(field, row, 1, Qt::AlignRight);
    connect(field, &QuantityField::entered, this, [this, name, set = std::move(set)](double number) {
        changeProfile(name + " of " + what_->currentText().toLower(), [&](Profile& profile) {
            set(profile.cutter.tools[std::size_t(what_->currentIndex())], number);
        });
    });
    rows_.push_back({label, field, std::move(value)});
}

void MachinePanel::addTools(QGridLayout* layout) {
    addRow(
        layout, "Tool holder", "Where the tool stands; another one than before pauses the machine",
        new QuantityField(QuantityKind::count, 1, 8), [](const Tool& s) { return double(s.holder); },
        [](Tool& s, double v) { s.holder = int(v); });
    addRow(
        layout, "Speed in mm/s", "How fast the knife goes",
        new QuantityField(QuantityKind::number, 1, 10'000), [](const Tool& s) { return s.speed; },
        [](Tool& s, double v) { s.speed = v; });
    addRow(
        layout, "Force in g", "How hard the knife presses; 0: as it is set at the machine",
        new QuantityField(QuantityKind::number, 0, 10'000), [](const Tool& s) { return s.force.value_or(0); },
        [](Tool& s, double v) { s.force = v >= 1 ? std::optional(v) : std::nullopt; });
    addRow(
        layout, "Passes", "How often the knife goes along the line",
        new QuantityField(QuantityKind::count, 1, 20), [](const Tool& s) { return double(s.passes); },
        [](Tool& s, double v) { s.passes = int(v); });
    addRow(
        layout, "Blade offset", "How far the blade's tip trails behind its holder; 0: the machine sees to it",
        new QuantityField(QuantityKind::length, 0, 2), [](const Tool& s) { return s.bladeOffset; },
        [](Tool& s, double v) { s.bladeOffset = v; });
    addRow(
        layout, "Overcut", "How far a closed line is cut past its start, so that its ends meet",
        new QuantityField(QuantityKind::length, 0, 10), [](const Tool& s) { return s.overcut; },
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

/// Nothing is changed, and a sentence says why, where the profile could not be used so.
void MachinePanel::changeProfile(const QString& label, const std::function<void(Profile&)>& change) {
    Profile changed = document_.job().profile;
    change(changed);
    try {
        const nlohmann::json json = toJson(changed);
        profileFromJson({json, "profile"});
    } catch (const InputError& error) {
        Q_EMIT document_.refused(QString::fromStdString(error.what()));
        return showJob();
    }
    document_.endRun();
    document_.change(label, [&](Job& job) { job.profile = changed; });
}

void MachinePanel::takeName() {
    const std::string name = name_->text().trimmed().toStdString();
    Profile now = document_.job().profile;
    if (name == spotIn(now).name)
        return;
    changeProfile("Name of " + what_->currentText().toLower(),
                  [&](Profile& profile) { spotIn(profile).name = name; });
}

void MachinePanel::open() {
    const QString path = QFileDialog::getOpenFileName(this, "Open profile", {}, filter);
    if (path.isEmpty())
        return;
    try {
        const Profile read = readProfile(toPath(path));
        changeProfile("Machine: " + QString::fromStdString(read.name),
                      [&](Profile& profile) { profile = read; });
    } catch (const InputError& error) {
        Q_EMIT document_.refused(QString::fromStdString(error.what()));
    }
}

void MachinePanel::save() {
    const QString path =
        askWhereToSave(this, "Save profile", machine_->currentText().toLower().replace(' ', '-'),
                       {{"Machine profile", ".json"}});
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
        machine_->addItem(QString::fromStdString(profile.name) + ", changed");
    machine_->setCurrentIndex(int(found - known_.begin()));
    if (!name_->hasFocus() || !name_->isModified())
        name_->setText(QString::fromStdString(spotIn(profile).name));
    for (const Row& row : rows_) {
        row.label->setVisible(!showsInk());
        row.field->setVisible(!showsInk());
        row.field->setUnit(document_.job().unit);
        if (!showsInk())
            row.field->show(row.value(profile.cutter.tools[std::size_t(std::max(what_->currentIndex(), 0))]));
    }
    tabs_->setChecked(profile.cutter.makesTabs);
    QStringList doubts;
    for (const std::string& sentence : doubtsAboutNames(profile))
        doubts << "▲ " + QString::fromStdString(sentence);
    doubts_->setText(doubts.join("\n"));
    doubts_->setVisible(!doubts.isEmpty());
}

} // namespace hasami
