#include "app/run/test_cut_panel.h"

#include "app/kit/named.h"
#include "app/kit/quantity_field.h"
#include "app/kit/theme.h"
#include "app/words/words.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QPainterPath>
#include <QToolButton>
#include <QVBoxLayout>

namespace hasami {

namespace {

/// A drop in its ring as it looks when it is peeled.
QIcon signOf(CutDepth depth, const Colours& colours) {
    QPixmap picture(80, 80);
    picture.setDevicePixelRatio(2);
    picture.fill(Qt::transparent);
    QPainter painter(&picture);
    painter.setRenderHint(QPainter::Antialiasing);
    const bool isShallow = depth == CutDepth::tooShallow;
    painter.setPen(QPen(colour::kiss, isShallow ? 1 : 2, isShallow ? Qt::DashLine : Qt::SolidLine));
    painter.setBrush(Qt::white);
    painter.drawEllipse(QPointF(20, 20), 17, 17);
    QPainterPath drop(QPointF(20, 7));
    drop.cubicTo(26, 16, 28, 19, 28, 23);
    drop.cubicTo(28, 34, 12, 34, 12, 23);
    drop.cubicTo(12, 19, 14, 16, 20, 7);
    painter.setBrush(depth == CutDepth::right     ? QColor(0xD9, 0xD0, 0xB8)
                     : depth == CutDepth::tooDeep ? colours.ink
                                                  : QColor(Qt::white));
    painter.drawPath(drop);
    return picture;
}

} // namespace

TestCutPanel::TestCutPanel(QWidget* parent)
    : QWidget(parent), drops_(new QHBoxLayout), depth_(new QuantityField(QuantityKind::length, 0, 10)) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(8);
    drops_->setSpacing(4);
    layout->addLayout(drops_);
    auto* row = new QHBoxLayout;
    row->addWidget(labelOf(*depth_, N_("Blade depth"),
                           N_("How far the blade stands out of its holder: set there, and noted here"),
                           " of the test"),
                   1);
    depth_->setZeroWord(tr("as set"));
    depth_->setFixedWidth(100);
    row->addWidget(depth_);
    layout->addLayout(row);
    connect(depth_, &QuantityField::entered, this, &TestCutPanel::depthEntered);
}

void TestCutPanel::showTest(const std::optional<TestCut>& test, std::optional<double> bladeDepth,
                            const Depths& depths) {
    qDeleteAll(findChildren<QToolButton*>());
    if (test)
        for (const TestDrop& drop : test->drops)
            addDrop(drop.force, depths ? depths(drop.force) : std::nullopt);
    depth_->show(bladeDepth.value_or(0));
}

void TestCutPanel::addDrop(double force, std::optional<CutDepth> depth) {
    const QString grams = tr("%1 g").arg(force, 0, 'f', 0);
    auto* button = new QToolButton;
    button->setObjectName("Drop " + QString::number(int(force)));
    button->setText(grams);
    button->setIcon(signOf(depth.value_or(CutDepth::tooShallow), coloursOf(palette())));
    button->setIconSize({40, 40});
    button->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
    const QString seen = !depth                        ? tr("cut with this force")
                         : *depth == CutDepth::right   ? tr("comes off whole")
                         : *depth == CutDepth::tooDeep ? tr("the backing is cut")
                                                       : tr("not cut through");
    button->setAccessibleName(grams + ", " + seen);
    button->setToolTip(tr("%1: %2. Takes this force for the kiss cut").arg(grams, seen));
    connect(
        button, &QToolButton::clicked, this, [this, force] { Q_EMIT forceTaken(force); },
        Qt::QueuedConnection); // the button goes
    drops_->addWidget(button);
}

} // namespace hasami
