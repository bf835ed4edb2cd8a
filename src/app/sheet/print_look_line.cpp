#include "app/sheet/print_look_line.h"

#include "app/kit/elided_label.h"
#include "app/kit/theme.h"
#include "app/paint/line_names.h"
#include "app/words/words.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QLocale>
#include <QToolButton>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

/// "1 page · Cyan, Black, CutContour · at most 240 % ink · RGB · transparency"
QString inWords(const PrintLook& found) {
    QStringList plates;
    for (const PlateUse::Plate& plate : found.plates.plates)
        plates << QString::fromStdString(plate.name);
    QStringList parts{counted(found.pages.size(), "%1 page", "%1 pages"), plates.join(", "),
                      tr("at most %1 % ink").arg(std::lround(found.plates.mostInk * 100))};
    if (found.hasRgb)
        parts << tr("RGB objects");
    if (found.isTransparent)
        parts << tr("transparency");
    return parts.join(" · ");
}

QString areaText(double squareMillimetres) {
    constexpr double inSquareCentimetre = 100;
    return tr("%1 cm²").arg(QLocale().toString(squareMillimetres / inSquareCentimetre, 'f', 2));
}

QString useOf(const PlateUse::Plate& plate, const SpotNames& names) {
    const QString name = QString::fromStdString(plate.name);
    const bool isOfLines = std::ranges::find(names.lines, plate.name, &SpotColour::name) != names.lines.end();
    return isOfLines ? tr("%1: cut lines").arg(name) : tr("%1: prints on %2").arg(name, areaText(plate.area));
}

/// "From the medium up: white ink, colours, gloss", of those that the print has; nothing without special
/// inks.
QString orderOf(const PlateUse& plates, const Profile& profile) {
    QStringList passes;
    bool hasInks = false;
    for (const InkOrder::Pass& pass : profile.printer.inkOrder.passes()) {
        const bool isThere = !pass || std::ranges::find(plates.plates, profile.names.of(*pass).name,
                                                        &PlateUse::Plate::name) != plates.plates.end();
        if (isThere)
            passes << (pass ? nameOf(*pass) : tr("Colours"));
        hasInks |= isThere && pass;
    }
    return hasInks ? tr("Printed from the medium up: %1").arg(passes.join(" · ")) : QString();
}

QString detailsOf(const OutputWriter::Look& look, const Profile& profile) {
    QStringList lines = look.differences;
    for (const PlateUse::Plate& plate : look.found.plates.plates)
        lines << useOf(plate, profile.names);
    if (const QString order = orderOf(look.found.plates, profile); !order.isEmpty())
        lines << order;
    for (const PrintLook::Page& page : look.found.pages)
        lines << tr("Page of %1 × %2 mm")
                     .arg(QLocale().toString(page.width, 'f', 2), QLocale().toString(page.height, 'f', 2));
    return lines.join("\n");
}

} // namespace

PrintLookLine::PrintLookLine(int number, QWidget* parent)
    : QWidget(parent), more_(new QToolButton), line_(new ElidedLabel(Qt::ElideRight)), details_(new QLabel) {
    more_->setCheckable(true);
    more_->setArrowType(Qt::RightArrow);
    more_->setObjectName(QString("Plates of output %1").arg(number));
    more_->setAccessibleName(tr("Plates of output %1").arg(number));
    more_->setToolTip(tr("What each plate of the file prints on, as it was written"));
    line_->setObjectName(QString("Look at output %1").arg(number));
    details_->setObjectName(QString("Plates in output %1").arg(number));
    details_->setProperty("role", "quiet");
    details_->setIndent(29); // as the line above, behind its arrow
    details_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    auto* row = new QHBoxLayout;
    row->addWidget(more_);
    row->addWidget(line_, 1);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 4);
    layout->setSpacing(2);
    layout->addLayout(row);
    layout->addWidget(details_);
    connect(more_, &QToolButton::toggled, this, &PrintLookLine::fold);
    fold();
    setVisible(false);
}

void PrintLookLine::fold() {
    more_->setArrowType(more_->isChecked() ? Qt::DownArrow : Qt::RightArrow);
    details_->setVisible(more_->isChecked());
}

void PrintLookLine::show(const std::optional<OutputWriter::Look>& look, const Profile& profile) {
    setVisible(look.has_value());
    if (!look)
        return;
    more_->setEnabled(look->isDone);
    const bool differs = !look->differences.isEmpty();
    line_->setWhole(!look->isDone ? tr("Reading what was written…")
                    : differs     ? tr("Not as asked for: %1").arg(look->differences.join(" "))
                                  : tr("Read again: %1").arg(inWords(look->found)));
    setStyled(*line_, "role", differs ? "trouble" : "quiet");
    details_->setText(detailsOf(*look, profile));
    fold();
}

} // namespace hasami
