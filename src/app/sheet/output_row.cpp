#include "app/sheet/output_row.h"

#include "app/kit/elided_label.h"
#include "app/kit/named.h"
#include "app/kit/quantity_field.h"
#include "app/kit/theme.h"
#include "app/paint/line_names.h"
#include "app/sheet/kinds_button.h"
#include "files/outputs.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLocale>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>

#include <algorithm>

namespace hasami {

namespace {

QString formatName(CutLanguage language) {
    return std::array{tr("SVG"), tr("DXF"), tr("HPGL"), tr("PDF of lines")}.at(std::size_t(language));
}

} // namespace

OutputRow::OutputRow(Document& document, OutputWriter& writer, std::size_t place, QWidget* parent)
    : OptionsRow(parent), document_(document), writer_(writer), place_(place), format_(new QComboBox),
      write_(new QPushButton(tr("Write"))), names_(new ElidedLabel(Qt::ElideMiddle)),
      contents_(new ElidedLabel(Qt::ElideRight)), last_(new ElidedLabel(Qt::ElideRight)) {
    const QString number = QString::number(place + 1);
    QHBoxLayout* layout = &line();
    addOptions();
    auto* text = new QVBoxLayout;
    text->setSpacing(0);
    text->addWidget(names_);
    text->addWidget(contents_);
    contents_->setProperty("role", "quiet");
    layout->addLayout(text, 3);
    last_->setProperty("role", "quiet");
    last_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    layout->addWidget(last_, 2);
    write_->setObjectName("Write output " + number);
    write_->setToolTip(tr("Write this output alone"));
    layout->addWidget(write_);
    auto* remove = new QToolButton;
    remove->setIcon(icon("close"));
    remove->setObjectName("Remove output " + number);
    remove->setAccessibleName(tr("Remove the output"));
    remove->setToolTip(tr("Plan this output no more; its files stay where they are"));
    layout->addWidget(remove);
    names_->setObjectName("Output names " + number);
    contents_->setObjectName("Output contents " + number);
    last_->setObjectName("Output last " + number);
    connect(write_, &QPushButton::clicked, this, &OutputRow::writeWanted);
    connect(remove, &QToolButton::clicked, this, [this] {
        document_.change(tr("Remove an output"), [this](Job& job) {
            job.outputs.outputs.erase(job.outputs.outputs.begin() + std::ptrdiff_t(place_));
        });
    });
}

void OutputRow::addOptions() {
    QHBoxLayout* layout = &options();
    auto* what = new QLabel(isPrint() ? tr("Print") : tr("Cut"));
    what->setProperty("role", "heading");
    what->setMinimumWidth(what->fontMetrics().horizontalAdvance("MMMM"));
    layout->addWidget(what);
    addFormats(layout);
    if (isPrint()) {
        cutLines_ =
            addCheck(layout, N_("Cut lines"),
                     N_("The printer's software finds the cut in the file under its spot name; without "
                        "them, the file holds only the print and the marks"),
                     &PlannedOutput::cutLines);
        onePerSheet_ =
            addCheck(layout, N_("A file for each sheet"), N_("Else one file holds all sheets, a page each"),
                     &PlannedOutput::isOnePerSheet);
        inks_ = addCheck(layout, N_("CMYK"),
                         N_("The picture is in cyan, magenta, yellow and black, and inks stay as they were "
                            "chosen; else in red, green and blue"),
                         &PlannedOutput::isInInks);
        dots_ = new QuantityField(QuantityKind::number, Limits::leastDots, Limits::mostDots);
        layout->addWidget(labelOf(*dots_, N_("Dots an inch"),
                                  N_("How fine the picture is; twice as fine takes four times the room"),
                                  " field"));
        layout->addWidget(dots_);
        connect(dots_, &QuantityField::entered, this, [this](double value) {
            change(tr("%1 dots an inch").arg(dots_->words(value)),
                   [value](PlannedOutput& output) { output.dotsPerInch = value; });
        });
    } else {
        addKinds(layout);
        onePerTool_ = addCheck(layout, N_("A file for each tool"),
                               N_("Else one file holds the lines of all tools, one after the other"),
                               &PlannedOutput::isOnePerTool);
    }
    layout->addStretch(1);
}

const PlannedOutput& OutputRow::output() const {
    return document_.job().outputs.outputs.at(place_);
}

bool OutputRow::isPrint() const {
    return output().what == PlannedOutput::What::print;
}

void OutputRow::change(const QString& label, const std::function<void(PlannedOutput&)>& edit) {
    document_.change(label, [this, &edit](Job& job) { edit(job.outputs.outputs.at(place_)); });
}

void OutputRow::addFormats(QHBoxLayout* layout) {
    if (isPrint())
        format_->addItems({tr("PDF"), tr("EPS"), tr("PNG picture"), tr("TIFF picture")});
    else
        format_->addItems({QString(), formatName(CutLanguage::svg), formatName(CutLanguage::dxf),
                           formatName(CutLanguage::hpgl), formatName(CutLanguage::pdf)});
    nameControl(*format_, N_("Format"), N_("What the files are written as"), "");
    format_->setObjectName("Format of output " + QString::number(place_ + 1));
    connect(format_, &QComboBox::activated, this, [this](int chosen) {
        change(tr("Format %1").arg(format_->currentText()), [this, chosen](PlannedOutput& output) {
            if (isPrint())
                output.print = PrintFormat(chosen);
            else
                output.cut = chosen == 0 ? std::nullopt : std::optional(CutLanguage(chosen - 1));
        });
    });
    layout->addWidget(format_);
}

QCheckBox* OutputRow::addCheck(QHBoxLayout* layout, const char* name, const char* effect,
                               bool PlannedOutput::*member) {
    auto* box = new QCheckBox(tr(name));
    box->setObjectName(QString("%1 of output %2").arg(QString::fromUtf8(name)).arg(place_ + 1));
    box->setToolTip(tr(effect));
    connect(box, &QCheckBox::clicked, this, [this, box, member](bool isOn) {
        change((isOn ? tr("On: %1") : tr("Off: %1")).arg(box->text()),
               [member, isOn](PlannedOutput& output) { output.*member = isOn; });
    });
    layout->addWidget(box);
    return box;
}

void OutputRow::addKinds(QHBoxLayout* layout) {
    kinds_ = new KindsButton("output " + QString::number(place_ + 1));
    connect(kinds_, &KindsButton::chosen, this, [this](const LineKinds& kinds) {
        change(tr("Kinds of line"), [&kinds](PlannedOutput& output) { output.kinds = kinds; });
    });
    layout->addWidget(kinds_);
}

void OutputRow::showOptions() {
    if (isPrint()) {
        const bool isPicture = output().print == PrintFormat::png || output().print == PrintFormat::tiff;
        format_->setCurrentIndex(int(output().print));
        cutLines_->setVisible(!isPicture);
        cutLines_->setChecked(output().cutLines);
        onePerSheet_->setVisible(output().print == PrintFormat::pdf &&
                                 document_.made()->layout.sheets.size() > 1);
        onePerSheet_->setChecked(output().isOnePerSheet);
        for (QLabel* label : findChildren<QLabel*>())
            if (label->buddy() == dots_)
                label->setVisible(isPicture);
        inks_->setVisible(output().print == PrintFormat::tiff && document_.job().outputs.colours.empty());
        inks_->setChecked(output().isInInks);
        dots_->setVisible(isPicture);
        dots_->show(output().dotsPerInch);
        return;
    }
    format_->setItemText(0, tr("The machine's: %1").arg(formatName(document_.job().profile.cutter.language)));
    format_->setCurrentIndex(output().cut ? int(*output().cut) + 1 : 0);
    kinds_->show(output().kinds);
    onePerTool_->setChecked(output().isOnePerTool);
}

/// "24 stickers · Kiss, Die · White · 4 marks · 212 × 600 mm"
void OutputRow::showContents() {
    const Job& job = document_.job();
    const Made& made = *document_.made();
    const OutputContents contents = contentsOf(output(), job, made);
    QStringList parts{counted(contents.pieces, "%1 sticker", "%1 stickers")};
    if (contents.sheets > 1)
        parts << (job.plan.medium.isRoll() ? counted(contents.sheets, "%1 roll", "%1 rolls")
                                           : counted(contents.sheets, "%1 sheet", "%1 sheets"));
    if (!contents.kinds.empty())
        parts << namesOf(contents.kinds);
    for (const InkKind ink : contents.inks)
        parts << nameOf(ink);
    if (contents.marks > 0)
        parts << counted(contents.marks, "%1 mark", "%1 marks");
    if (!made.layout.sheets.empty())
        parts << sizeText(made.layout.sheets.front().length, job.plan.medium.width, job.unit);
    contents_->setWhole(made.layout.sheets.empty() ? tr("Nothing on the sheet") : parts.join(" · "));
}

void OutputRow::showLast() {
    const OutputWriter::Written* last = writer_.lastOf(output());
    if (!last) {
        last_->setWhole(tr("Not written yet"));
    } else {
        const QString when = last->at.time().toString("HH:mm");
        const QString size = QLocale().formattedDataSize(last->bytes, 1, QLocale::DataSizeSIFormat);
        last_->setWhole(writer_.isOutOfDate(*last) ? tr("Out of date: written %1, %2").arg(when, size)
                                                   : tr("Written %1, %2").arg(when, size));
    }
    setStyled(*last_, "role", last && writer_.isOutOfDate(*last) ? "trouble" : "quiet");
    write_->setEnabled(writer_.state() != OutputWriter::State::working &&
                       !document_.made()->layout.sheets.empty());
}

void OutputRow::show(const QStringList& names, const QString& trouble) {
    showOptions();
    constexpr qsizetype most = 2;
    names_->setWhole(!trouble.isEmpty()     ? trouble
                     : names.size() <= most ? names.join(", ")
                                            : tr("%1 and %2 more").arg(names.front()).arg(names.size() - 1));
    names_->setToolTip(trouble.isEmpty() ? names.join("\n") : trouble);
    setStyled(*names_, "role", trouble.isEmpty() ? "" : "trouble");
    showContents();
    showLast();
}

} // namespace hasami
