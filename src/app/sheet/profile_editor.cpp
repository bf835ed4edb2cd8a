#include "app/sheet/profile_editor.h"

#include "app/controls/design_controls.h"
#include "app/kit/named.h"
#include "app/kit/save_dialog.h"
#include "app/kit/theme.h"
#include "app/paint/line_names.h"
#include "app/sheet/change_profile.h"
#include "app/sheet/profile_picture.h"
#include "base/error.h"
#include "base/json_reader.h"
#include "files/devices/send.h"
#include "files/file_name.h"
#include "files/profile_file.h"
#include "files/safe_write.h"

#include <QComboBox>
#include <QFileDialog>
#include <QKeyEvent>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QTabWidget>
#include <QVBoxLayout>

#include <algorithm>

namespace hasami {

namespace {

QString filter() {
    return tr("Machine profiles (*.json)");
}

} // namespace

ProfileEditor::ProfileEditor(Document& document, ProfileLibrary& library, QWidget* parent)
    : QDialog(parent), document_(document), library_(library), list_(new QListWidget),
      picture_(new ProfilePicture), notice_(new QLabel), about_(new QLabel) {
    setObjectName("Profile editor");
    setWindowTitle(tr("Machine profiles"));
    resize(1120, 680);
    list_->setObjectName("Profiles");
    list_->setAccessibleName(tr("Machine profiles"));
    list_->setMinimumWidth(280);
    list_->setSpacing(3);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    connect(list_, &QListWidget::currentRowChanged, this, &ProfileEditor::showChosen);
    about_->setObjectName("About the profile");
    about_->setProperty("role", "quiet");
    notice_->setObjectName("Profile notice");
    notice_->setProperty("role", "trouble");
    for (QLabel* label : {about_, notice_})
        label->setWordWrap(true);

    auto* shelf = new QFrame;
    shelf->setProperty("role", "panel");
    (new QVBoxLayout(shelf))->addWidget(list_);
    auto* left = new QVBoxLayout;
    left->addWidget(shelf, 1);
    auto* first = new QHBoxLayout;
    addButton(*first, N_("New profile"), N_("Adds a profile with the values of a drag knife"),
              &ProfileEditor::makeNew);
    addButton(*first, N_("Duplicate profile"), N_("Adds a copy of this profile"), &ProfileEditor::duplicate);
    auto* second = new QHBoxLayout;
    addButton(*second, N_("Import…"), N_("Adds a profile from a file"), &ProfileEditor::importFile);
    addButton(*second, N_("Export…"), N_("Writes this profile to a file, for other people"),
              &ProfileEditor::exportFile);
    for (QHBoxLayout* row : {first, second})
        left->addLayout(row);
    forget_ = addButton(*left, N_("Delete profile"), N_("Takes this profile out of the library"),
                        &ProfileEditor::forget);
    keepJobs_ = addButton(*left, N_("Keep the job's copy"),
                          N_("Adds the profile that the job has to the library"), &ProfileEditor::keepJobs);

    auto* middle = new QWidget;
    middle->setFixedWidth(390);
    addForms(*middle);

    auto* right = new QVBoxLayout;
    right->addWidget(picture_, 1);
    right->addWidget(about_);
    right->addWidget(notice_);

    auto* ends = new QHBoxLayout;
    undo_ = addButton(*ends, N_("Undo the change"), N_("Takes the last change of a profile back (Ctrl+Z)"),
                      &ProfileEditor::undo);
    ends->addStretch(1);
    use_ = addButton(*ends, N_("Use for this job"), N_("The job takes a copy of this profile"),
                     &ProfileEditor::useForJob);
    auto* close = new QPushButton(tr("Close"));
    close->setObjectName("Close profiles");
    close->setAutoDefault(false);
    connect(close, &QPushButton::clicked, this, &QDialog::accept);
    ends->addWidget(close);

    auto* columns = new QHBoxLayout;
    columns->setSpacing(16);
    columns->addLayout(left);
    columns->addWidget(middle);
    columns->addLayout(right, 1);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(16, 16, 16, 12);
    all->setSpacing(12);
    all->addLayout(columns, 1);
    all->addLayout(ends);
    showLibrary(document.job().profile.name);
}

QPushButton* ProfileEditor::addButton(QLayout& row, const char* name, const char* effect,
                                      void (ProfileEditor::*act)()) {
    auto* button = new QPushButton(tr(name));
    button->setObjectName(name);
    button->setToolTip(tr(effect));
    button->setAutoDefault(false);
    connect(button, &QPushButton::clicked, this, act);
    row.addWidget(button);
    return button;
}

ProfileForm* ProfileEditor::newForm() {
    forms_.push_back(new ProfileForm(
        nullptr, [this](const QString&, const std::function<void(Profile&)>& edit, const QString& run) {
            run.isEmpty() ? change(edit) : preview(edit);
        }));
    return forms_.back();
}

ProfileForm* ProfileEditor::addPage(QTabWidget& pages, const QString& title) {
    auto* page = new QWidget;
    ProfileForm* form = newForm();
    auto* layout = new QVBoxLayout(page);
    layout->setContentsMargins(12, 12, 12, 12);
    layout->addWidget(form);
    layout->addStretch(1);
    pages.addTab(scrolledPage(page), title);
    return form;
}

void ProfileEditor::addForms(QWidget& place) {
    ProfileForm* name = newForm();
    name->addLine(
        {N_("Profile name"), N_("What people know the machine by")}, {200, 240},
        [](const Profile& p) { return p.name; }, [](Profile& p, const std::string& text) { p.name = text; });
    auto* pages = new QTabWidget;
    pages->setObjectName("Parts of the profile");
    addPrinterFields(*addPage(*pages, tr("Printer")));
    ProfileForm& cutter = *addPage(*pages, tr("Cutter"));
    addReachFields(cutter);
    addRollerField(cutter);
    addErrorOfCut(cutter);
    addLoadLimits(cutter);
    addTimes(cutter);
    addAxesFields(cutter);
    cutter.addChoice(
        {N_("Cut file"), N_("The format of cut files that is offered first")},
        {tr("Cut files in SVG"), tr("Cut files in DXF"), tr("Cut files in HPGL"), tr("Cut files in PDF")},
        [](const Profile& p) { return int(p.cutter.language); },
        [](Profile& p, int place) { p.cutter.language = CutLanguage(place); });
    cutter.addLine(
        {N_("Connection"),
         N_("Where the machine is reached: tcp:HOST:PORT, or device:PATH,BAUD; empty: not known")},
        {300, 180}, [](const Profile& p) { return p.cutter.connection; },
        [](Profile& p, const std::string& text) { p.cutter.connection = text; });
    addTabsField(cutter);
    tool_ = new QComboBox;
    for (const LineKind kind : lineKinds)
        tool_->addItem(signOf(kind), nameOf(kind));
    tool_->setIconSize({28, 16});
    nameControl(*tool_, N_("Tool of"), N_("The line whose tool stands below"), " choice");
    connect(tool_, &QComboBox::currentIndexChanged, this, &ProfileEditor::showChosen);
    cutter.addWide(tool_);
    addToolFields(
        cutter, [this] { return std::optional(lineKinds[std::size_t(std::max(tool_->currentIndex(), 0))]); });
    ProfileForm& marks = *addPage(*pages, tr("Marks"));
    addMarkFields(marks);
    addLeadFields(*addPage(*pages, tr("Leading edge")));
    addNameFields(*addPage(*pages, tr("Names")));
    auto* layout = new QVBoxLayout(&place);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(name);
    layout->addWidget(pages, 1);
}

void ProfileEditor::addPrinterFields(ProfileForm& form) {
    form.addInkOrder(
        {N_("Order of the inks"),
         N_("In which order the colours and the special inks are printed, the topmost first")},
        [](const Profile& p) { return p.printer.inkOrder; },
        [](Profile& p, const InkOrder& order) { p.printer.inkOrder = order; });
    addErrorOfPrint(form);
    addResolution(form);
    QLabel* text = form.addText();
    text->setText(
        tr("The medium lies under the last one. White over the colours is for what is seen through the "
           "medium, between two passes for what is seen from both sides."));
}

void ProfileEditor::addNameFields(ProfileForm& form) {
    const auto add = [&](const char* name, auto place) {
        form.addLine(
            {name, N_("The exact name that the printer's software expects, letter by letter")}, {},
            [place](Profile p) { return place(p).name; },
            [place](Profile& p, const std::string& text) { place(p).name = text; });
    };
    for (const LineKind kind : lineKinds)
        add(englishNameOf(kind),
            [kind](Profile& p) -> SpotColour& { return p.names.lines[std::size_t(kind)]; });
    for (const InkKind ink : inkKinds)
        add(englishNameOf(ink), [ink](Profile& p) -> SpotColour& { return p.names.inks[std::size_t(ink)]; });
}

const ProfileLibrary::Entry* ProfileEditor::chosen() const {
    const int row = list_->currentRow();
    return row >= 0 && row < int(library_.entries().size()) ? &library_.entries()[std::size_t(row)] : nullptr;
}

bool ProfileEditor::tried(const std::function<void()>& act) {
    notice_->clear();
    try {
        act();
        return true;
    } catch (const std::runtime_error& error) { // input or output
        notice_->setText(QString::fromStdString(error.what()));
        return false;
    }
}

void ProfileEditor::change(const std::function<void(Profile&)>& change) {
    const ProfileLibrary::Entry* entry = chosen();
    if (!entry)
        return;
    const Profile before = entry->profile;
    Profile changed = before;
    change(changed);
    if (changed == before)
        return;
    const bool isKept = tried([&] {
        if (changed.name.empty())
            throw InputError(translated("A profile needs a name"));
        if (changed.name != before.name && library_.find(changed.name))
            throw InputError(sentence("There is a profile called \"%1\" already", changed.name));
        if (!changed.cutter.connection.empty())
            SendTarget::parse(changed.cutter.connection); // refuses what is none
        const nlohmann::json json = toJson(changed);
        profileFromJson({json, "profile"});
        keep(changed, before.name);
    });
    if (isKept)
        before_.emplace_back(changed.name, before);
    showLibrary(isKept ? changed.name : before.name);
}

/// While a slider moves, the picture alone follows.
void ProfileEditor::preview(const std::function<void(Profile&)>& change) {
    if (const ProfileLibrary::Entry* entry = chosen()) {
        Profile changed = entry->profile;
        change(changed);
        picture_->show(changed, document_.job().plan.medium);
    }
}

void ProfileEditor::keep(const Profile& profile, const std::string& before) {
    library_.keep(profile, before);
}

/// A field that is being typed in takes back what was typed in it.
void ProfileEditor::keyPressEvent(QKeyEvent* event) {
    if (event->matches(QKeySequence::Undo))
        undo();
    else
        QDialog::keyPressEvent(event);
}

void ProfileEditor::undo() {
    if (before_.empty())
        return;
    const auto [name, before] = before_.back();
    if (tried([&, &name = name, &before = before] { library_.keep(before, name); }))
        before_.pop_back();
    showLibrary(before.name);
}

void ProfileEditor::showLibrary(const std::string& name) {
    const QSignalBlocker quiet(list_);
    list_->clear();
    int row = 0;
    for (std::size_t i = 0; i < library_.entries().size(); ++i) {
        const ProfileLibrary::Entry& entry = library_.entries()[i];
        const QString shown = QString::fromStdString(entry.profile.name);
        list_->addItem(entry.comes && entry.isOwn() ? tr("%1, changed").arg(shown) : shown);
        if (entry.profile.name == name)
            row = int(i);
    }
    list_->setCurrentRow(row);
    showChosen();
}

void ProfileEditor::showChosen() {
    const ProfileLibrary::Entry* entry = chosen();
    if (!entry)
        return;
    const Job& job = document_.job();
    for (ProfileForm* form : forms_)
        form->show(entry->profile, job.unit);
    picture_->show(entry->profile, job.plan.medium);
    forget_->setText(entry->comes ? tr("Reset profile") : tr("Delete profile"));
    forget_->setToolTip(entry->comes ? tr("Brings the values back that came with the program")
                                     : tr("Takes this profile out of the library"));
    forget_->setEnabled(entry->isOwn());
    use_->setEnabled(entry->profile != job.profile);
    const ProfileLibrary::Entry* same = library_.find(job.profile.name);
    keepJobs_->setEnabled(!same || same->profile != job.profile);
    undo_->setEnabled(!before_.empty());
    QStringList words;
    if (entry->profile == job.profile)
        words << tr("This job uses the profile as it is.");
    else if (entry->profile.name == job.profile.name)
        words << tr("This job has a copy of its own, which differs.");
    for (const std::string& doubt : doubtsAboutNames(entry->profile))
        words << "▲ " + QString::fromStdString(doubt);
    for (const std::string& trouble : library_.troubles())
        words << "▲ " + QString::fromStdString(trouble);
    about_->setText(words.join("\n"));
}

void ProfileEditor::makeNew() {
    Profile fresh = startProfile();
    fresh.name = library_.freeName(tr("New machine").toStdString());
    if (tried([&] { library_.keep(fresh, {}); }))
        showLibrary(fresh.name);
}

void ProfileEditor::duplicate() {
    const ProfileLibrary::Entry* entry = chosen();
    if (!entry)
        return;
    Profile copy = entry->profile;
    copy.name = library_.freeName(copy.name);
    if (tried([&] { library_.keep(copy, {}); }))
        showLibrary(copy.name);
}

void ProfileEditor::forget() {
    const ProfileLibrary::Entry* entry = chosen();
    if (!entry || !entry->isOwn())
        return;
    const Profile before = entry->profile;
    if (tried([&] { library_.forget(before.name); }))
        before_.emplace_back(before.name, before);
    showLibrary(before.name);
}

void ProfileEditor::importFile() {
    const QString path = QFileDialog::getOpenFileName(this, tr("Import a profile"), {}, filter());
    if (path.isEmpty())
        return;
    Profile read;
    std::vector<std::string> remarks;
    if (tried([&] {
            read = readProfile(toPath(path), &remarks);
            read.name = library_.freeName(read.name.empty() ? toPath(path).stem().string() : read.name);
            library_.keep(read, {});
        })) {
        showLibrary(read.name);
        if (!remarks.empty())
            notice_->setText(QString::fromStdString(remarks.front()));
    }
}

void ProfileEditor::exportFile() {
    const ProfileLibrary::Entry* entry = chosen();
    if (!entry)
        return;
    const QString name = QString::fromStdString(entry->profile.name);
    const QString path = askWhereToSave(this, tr("Export the profile"), name.toLower().replace(' ', '-'),
                                        {{tr("Machine profile"), ".json"}});
    if (!path.isEmpty())
        tried([&] { writeSafely(toPath(path), profileText(entry->profile)); });
}

void ProfileEditor::keepJobs() {
    Profile jobs = document_.job().profile;
    if (library_.find(jobs.name))
        jobs.name = library_.freeName(jobs.name);
    if (tried([&] { library_.keep(jobs, {}); }))
        showLibrary(jobs.name);
}

void ProfileEditor::useForJob() {
    const ProfileLibrary::Entry* entry = chosen();
    if (!entry)
        return;
    const Profile taken = entry->profile;
    changeProfile(document_, tr("%1: %2").arg(tr("Machine"), QString::fromStdString(taken.name)),
                  [&](Profile& profile) { profile = taken; });
    showChosen();
}

} // namespace hasami
