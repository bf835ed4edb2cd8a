#include "app/sheet/outputs_panel.h"

#include "app/kit/named.h"
#include "app/kit/save_dialog.h"
#include "app/sheet/machine_row.h"
#include "app/sheet/output_row.h"
#include "app/sheet/print_look_line.h"
#include "app/sheet/printer_row.h"
#include "app/words/words.h"
#include "base/error.h"
#include "checks/findings.h"
#include "files/colour_profile.h"
#include "files/file_name.h"
#include "files/outputs.h"

#include <QDesktopServices>
#include <QDir>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QScrollArea>
#include <QUrl>
#include <QVBoxLayout>

namespace hasami {

namespace {

constexpr auto aboutColours =
    N_("An ICC profile of printer, ink and medium: print files name it, TIFF pictures are in its colours");

} // namespace

OutputsPanel::OutputsPanel(Document& document, OutputWriter& writer, QWidget* parent)
    : QFrame(parent), document_(document), writer_(writer), folder_(new QLineEdit), names_(new QLineEdit),
      open_(new QPushButton(tr("Open"))), colours_(new QPushButton),
      addPrint_(new QPushButton(tr("Add a print"))), addCut_(new QPushButton(tr("Add a cut"))),
      printing_(new PrintRun(document, this)), printer_(new PrinterRow(document, *printing_)),
      sending_(new SendRun(document, this)), machine_(new MachineRow(document, *sending_)),
      scroll_(new QScrollArea), list_(nullptr) {
    setProperty("role", "panel");
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(16, 10, 16, 10);
    layout->setSpacing(6);
    layout->addWidget(makeHead());
    auto* rows = new QWidget;
    list_ = new QVBoxLayout(rows);
    list_->setContentsMargins(0, 0, 4, 0);
    list_->setSpacing(0);
    list_->addWidget(printer_);
    list_->addWidget(machine_);
    scroll_->setWidget(rows);
    scroll_->setWidgetResizable(true);
    scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll_->setFocusPolicy(Qt::NoFocus);
    layout->addWidget(scroll_);
    writer.mayReplace = [this](const QStringList& names) { return mayReplace(this, names); };
    connect(&document, &Document::jobChanged, this, &OutputsPanel::showPlan);
    connect(&document, &Document::madeChanged, this, &OutputsPanel::showPlan);
    connect(&writer, &OutputWriter::changed, this, &OutputsPanel::showPlan);
}

QWidget* OutputsPanel::makeHead() {
    auto* head = new QWidget;
    auto* line = new QHBoxLayout(head);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(8);
    line->addWidget(
        labelOf(*folder_, N_("Folder"), N_("Where the files go; empty: beside the job's file"), " field"));
    line->addWidget(folder_, 3);
    auto* choose = new QPushButton(tr("Choose…"));
    choose->setObjectName("Choose folder");
    choose->setToolTip(tr("Choose the folder that files go to"));
    line->addWidget(choose);
    open_->setObjectName("Open folder");
    open_->setToolTip(tr("Show the folder in the file manager"));
    line->addWidget(open_);
    line->addSpacing(12);
    line->addWidget(labelOf(
        *names_, N_("Names"),
        N_("How files are called: {job}, {sheet}, {what} and {day} stand for what they say"), " field"));
    line->addWidget(names_, 2);
    nameControl(*colours_, N_("Colour profile"), aboutColours, "");
    auto* menu = new QMenu(colours_);
    menu->addAction(tr("Choose an ICC profile…"), this, &OutputsPanel::askForColours);
    menu->addAction(tr("No profile"), this, [this] { setColours(nullptr); })->setObjectName("No profile");
    colours_->setMenu(menu);
    line->addWidget(colours_);
    line->addSpacing(12);
    addPrint_->setObjectName("Add a print output");
    addPrint_->setToolTip(tr("One more output with the stickers and marks: PDF, EPS or pictures"));
    addCut_->setObjectName("Add a cut output");
    addCut_->setToolTip(tr("One more output with the cut lines: SVG, DXF, PDF or HPGL"));
    line->addWidget(addPrint_);
    line->addWidget(addCut_);
    connect(folder_, &QLineEdit::editingFinished, this, [this] { setFolder(folder_->text().trimmed()); });
    connect(names_, &QLineEdit::editingFinished, this, [this] {
        const std::string names = names_->text().trimmed().toStdString();
        if (names != document_.job().outputs.names)
            document_.change(tr("Names %1").arg(names_->text().trimmed()), [&](Job& job) {
                job.outputs.names = names.empty() ? OutputPlan{}.names : names;
            });
    });
    connect(choose, &QPushButton::clicked, this, &OutputsPanel::askForFolder);
    connect(open_, &QPushButton::clicked, this,
            [this] { QDesktopServices::openUrl(QUrl::fromLocalFile(writer_.folder())); });
    connect(addPrint_, &QPushButton::clicked, this, [this] { add(PlannedOutput::What::print); });
    connect(addCut_, &QPushButton::clicked, this, [this] { add(PlannedOutput::What::cut); });
    return head;
}

void OutputsPanel::askForColours() {
    const QString path = QFileDialog::getOpenFileName(this, tr("ICC profile of the printer"), {},
                                                      tr("ICC profiles (*.icc *.icm)"));
    if (path.isEmpty())
        return;
    try {
        setColours(readColourProfile(toPath(path)));
    } catch (const InputError& error) {
        Q_EMIT document_.refused(QString::fromUtf8(error.what()));
    }
}

void OutputsPanel::setColours(const std::shared_ptr<const Asset>& profile) {
    document_.change(profile ? tr("Colour profile %1").arg(QString::fromStdString(profile->name))
                             : tr("No colour profile"),
                     [&](Job& job) {
                         if (profile)
                             job.assets.edit()[profile->sha256] = profile;
                         job.outputs.colours = profile ? profile->sha256 : std::string();
                     });
}

/// Which profile print files name, and whether they are a PDF/X-4.
void OutputsPanel::showColours() {
    if (!document_.isMade()) // of a design that is gone, nothing can be said
        return;
    const Job& job = document_.job();
    QString name = tr("no profile"), effect = tr(aboutColours);
    if (!job.outputs.colours.empty()) {
        name = QString::fromStdString(colourProfileOf(*job.assets->at(job.outputs.colours)).name);
        const auto why = whyNotX4(job, *document_.made());
        effect = name + "\n" + (why ? QString::fromStdString(*why) : tr("Print files are PDF/X-4."));
    }
    constexpr int widest = 110; // pixels
    colours_->setText(
        tr("Colours: %1").arg(colours_->fontMetrics().elidedText(name, Qt::ElideRight, widest)));
    colours_->setToolTip(effect);
}

void OutputsPanel::setFolder(const QString& folder) {
    const std::string path = folder.isEmpty() ? std::string() : QDir::cleanPath(folder).toStdString();
    if (path != document_.job().outputs.folder)
        document_.change(tr("Folder for outputs"), [&](Job& job) { job.outputs.folder = path; });
}

/// The folder chosen, which the job keeps; empty if none was.
QString OutputsPanel::askForFolder() {
    const QString folder =
        QFileDialog::getExistingDirectory(this, tr("Folder for outputs"), writer_.folder());
    if (!folder.isEmpty())
        setFolder(folder);
    return folder;
}

void OutputsPanel::write(const std::vector<std::size_t>& places) {
    if (!writer_.folder().isEmpty() || !askForFolder().isEmpty())
        writer_.write(places);
}

void OutputsPanel::writeAll() {
    if (!writer_.folder().isEmpty() || !askForFolder().isEmpty())
        writer_.writeAll();
}

void OutputsPanel::add(PlannedOutput::What what) {
    PlannedOutput output{what};
    // What there is not yet, so that two outputs don't begin with one name.
    const auto has = [&](const PlannedOutput& other) {
        const auto& all = document_.job().outputs.outputs;
        return std::ranges::any_of(all, [&](const PlannedOutput& one) {
            return endingOf(one, document_.job()) == endingOf(other, document_.job());
        });
    };
    for (int format = 0; format < 4 && has(output); ++format) {
        output.print = PrintFormat(format);
        if (what == PlannedOutput::What::cut)
            output.cut = CutLanguage(format);
    }
    document_.change(what == PlannedOutput::What::print ? tr("Add a print output") : tr("Add a cut output"),
                     [&](Job& job) { job.outputs.outputs.push_back(output); });
}

void OutputsPanel::showEvent(QShowEvent* event) {
    QFrame::showEvent(event);
    showPlan();
}

void OutputsPanel::makeRows(std::size_t count) {
    for (OutputRow* row : rows_)
        row->deleteLater();
    for (PrintLookLine* look : looks_)
        look->deleteLater();
    rows_.clear();
    looks_.clear();
    for (std::size_t i = 0; i < count; ++i) {
        rows_.push_back(new OutputRow(document_, writer_, i));
        looks_.push_back(new PrintLookLine(int(i) + 1));
        list_->insertWidget(int(2 * i), rows_.back());
        list_->insertWidget(int(2 * i + 1), looks_.back());
        connect(rows_.back(), &OutputRow::writeWanted, this, [this, i] { write({i}); });
    }
    fitHeight();
}

/// As many rows as leave the sheet above most of the window.
void OutputsPanel::fitHeight() {
    constexpr int leastSeen = 2, ofOthers = 560; // rows; pixels
    const int row = printer_->sizeHint().height() + 4, all = int(rows_.size()) + 2;
    scroll_->setFixedHeight(row * std::clamp((window()->height() - ofOthers) / row, leastSeen, all));
}

void OutputsPanel::resizeEvent(QResizeEvent* event) {
    QFrame::resizeEvent(event);
    fitHeight();
}

void OutputsPanel::showPlan() {
    if (!isVisible())
        return;
    const OutputPlan& plan = document_.job().outputs;
    if (!folder_->hasFocus() || !folder_->isModified())
        folder_->setText(QDir::toNativeSeparators(QString::fromStdString(plan.folder)));
    folder_->setPlaceholderText(writer_.folder().isEmpty() ? tr("asked for when files are written")
                                                           : QDir::toNativeSeparators(writer_.folder()));
    if (!names_->hasFocus() || !names_->isModified())
        names_->setText(QString::fromStdString(plan.names));
    showColours();
    open_->setEnabled(!writer_.folder().isEmpty());
    addPrint_->setEnabled(plan.outputs.size() < Limits::mostOutputs);
    addCut_->setEnabled(addPrint_->isEnabled());
    std::vector<PlannedOutput::What> kinds;
    for (const PlannedOutput& output : plan.outputs)
        kinds.push_back(output.what);
    if (kinds != shown_ || rows_.size() != kinds.size()) {
        shown_ = kinds;
        makeRows(kinds.size());
    }
    std::vector<std::vector<std::filesystem::path>> paths(rows_.size());
    QString trouble;
    try {
        paths = plannedPaths(toPath(writer_.folder()), *document_.namedJob(), *document_.made());
    } catch (const OutputError& error) {
        trouble = QString::fromUtf8(error.what());
    }
    for (std::size_t i = 0; i < rows_.size(); ++i) {
        QStringList names;
        for (const std::filesystem::path& path : paths[i])
            names << toQString(path.filename());
        rows_[i]->show(names, trouble);
        const OutputWriter::Written* last = writer_.lastOf(plan.outputs[i]);
        looks_[i]->show(last && !writer_.isOutOfDate(*last) ? last->look : std::nullopt,
                        document_.job().profile);
    }
    printer_->showJob();
    machine_->showJob();
    int widest = std::max(machine_->widthOfOptions(), printer_->widthOfOptions());
    for (const OutputRow* row : rows_)
        widest = std::max(widest, row->widthOfOptions());
    for (OutputRow* row : rows_)
        row->setWidthOfOptions(widest);
    machine_->setWidthOfOptions(widest);
    printer_->setWidthOfOptions(widest);
}

} // namespace hasami
