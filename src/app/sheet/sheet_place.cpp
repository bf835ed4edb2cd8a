#include "app/sheet/sheet_place.h"

#include "app/document/nest_run.h"
#include "app/kit/prompt_line.h"
#include "app/kit/quantity_field.h"
#include "app/sheet/ledger.h"
#include "app/sheet/machine_panel.h"
#include "app/sheet/medium_panel.h"
#include "app/sheet/nest_bar.h"
#include "app/sheet/outputs_panel.h"
#include "app/sheet/piece_hand.h"
#include "app/sheet/piece_panel.h"
#include "app/sheet/route_bar.h"
#include "app/sheet/sheet_settings.h"
#include "app/sheet/sheet_view.h"
#include "app/shelf/shelf.h"
#include "app/words/words.h"
#include "checks/findings.h"

#include <QGridLayout>
#include <QPushButton>

namespace hasami {

namespace {

/// Names that are doubtful are shown beside their field, notes where they belong.
std::optional<Finding> firstOnSheet(const Job& job, const Made& made) {
    for (const Finding& finding : findingsOf(job, made))
        if (!finding.step && finding.code != FindingCode::nameDoubtful && finding.severity != Severity::note)
            return finding;
    return {};
}

} // namespace

SheetPlace::SheetPlace(Document& document, OutputWriter& writer, QWidget* parent)
    : QWidget(parent), document_(document), writer_(writer), prompt_(new PromptLine),
      nest_(new NestRun(document, this)), hand_(new PieceHand(document, *nest_, this)),
      shelf_(new Shelf(document)), view_(new SheetView(document, *nest_, *hand_)),
      outputs_(new OutputsPanel(document, writer)), ledger_(new Ledger(document, writer, *nest_)) {
    auto* layout = new QGridLayout(this);
    layout->setContentsMargins(12, 8, 12, 12);
    layout->setSpacing(8);
    layout->addWidget(prompt_, 0, 0, 1, 3);
    layout->addWidget(shelf_, 1, 0, 3, 1);
    auto* route = new RouteBar(document);
    layout->addWidget(view_, 1, 1);
    layout->addWidget(new NestBar(document, *nest_), 2, 1);
    layout->addWidget(route, 3, 1);
    view_->showRoute(*route);
    settings_ = new SheetSettings(document, *nest_);
    settings_->addOnTop(new PiecePanel(*hand_));
    layout->addWidget(settings_, 1, 2, 3, 1);
    connect(&settings_->medium().usedAreas(), &QPushButton::toggled, view_, &SheetView::drawUsedAreas);
    layout->addWidget(outputs_, 4, 0, 1, 3);
    layout->addWidget(ledger_, 5, 0, 1, 3);
    outputs_->hide();
    layout->setColumnStretch(1, 1);
    layout->setRowStretch(1, 1);
    connect(shelf_, &Shelf::artworkWanted, this, &SheetPlace::artworkWanted);
    connect(&document, &Document::madeChanged, this, &SheetPlace::showPrompt);
    connect(&document, &Document::jobChanged, this, &SheetPlace::showPrompt);
    connect(&writer, &OutputWriter::changed, this, &SheetPlace::showPrompt);
    connect(nest_, &NestRun::changed, this, &SheetPlace::showPrompt);
    connect(hand_, &PieceHand::told, this, [this](const QString& sentence) { prompt_->warn(sentence); });
    connect(&ledger_->outputs(), &QPushButton::toggled, outputs_, &QWidget::setVisible);
    connect(ledger_, &Ledger::writeAllWanted, outputs_, &OutputsPanel::writeAll);
    connect(ledger_, &Ledger::queueWanted, this, &SheetPlace::queueWanted);
    connect(ledger_, &Ledger::layoutWanted, hand_, &PieceHand::layOutAgain);
    connect(nest_, &NestRun::told, this, [this](const QString& sentence) { prompt_->warn(sentence + "."); });
    showPrompt();
}

void SheetPlace::sayQueued(std::size_t sheets) {
    prompt_->say(counted(sheets, "%1 sheet was added to the queue.", "%1 sheets were added to the queue."),
                 tr("Go to Run"), [this] { Q_EMIT runWanted(); });
}

void SheetPlace::showPrompt() {
    const Made& made = *document_.made();
    const auto goToStickers = [this] { Q_EMIT stickersWanted(); };
    if (document_.job().designs.empty()) {
        prompt_->say(tr("There are no stickers yet."), tr("Go to Stickers"), goToStickers);
    } else if (nest_->isOn()) {
        prompt_->say(nest_->isSettingUp() ? tr("Preparing the nest…")
                                          : tr("Searching for a layout that takes less…"));
    } else if (!document_.isMade()) {
        prompt_->say(tr("Laying out the sheet…"));
    } else if (const auto finding = firstOnSheet(document_.job(), made)) {
        const QString sentence = QString::fromStdString(finding->text);
        if (!finding->piece)
            return prompt_->warn(sentence + ".");
        const std::size_t more = made.layout.conflicts.size() - 1;
        prompt_->warn(more > 0 ? tr("%1, and %2 more.").arg(sentence).arg(more) : sentence + ".",
                      tr("Push apart"), [this] { hand_->pushApart(); });
    } else if (made.layout.sheets.empty()) {
        prompt_->warn(tr("No design has a cut line and copies to lay out."), tr("Go to Stickers"),
                      goToStickers);
    } else {
        prompt_->say(tr("Laid out: %1 on %2. Next: check the proof, or write the outputs, below.")
                         .arg(counted(made.layout.pieces(), "%1 sticker", "%1 stickers"),
                              document_.job().plan.medium.isRoll() && made.layout.sheets.size() > 1
                                  ? counted(made.layout.sheets.size(), "%1 roll", "%1 rolls")
                              : document_.job().plan.medium.isRoll()
                                  ? tr("%1 of the roll")
                                        .arg(quantityText(made.layout.usedLength(), QuantityKind::length,
                                                          document_.job().unit))
                                  : counted(made.layout.sheets.size(), "%1 sheet", "%1 sheets")),
                     tr("Go to Proof"), [this] { Q_EMIT proofWanted(); });
    }
}

void SheetPlace::editProfiles() {
    settings_->machine().edit();
}

void SheetPlace::askForPrice() {
    QuantityField& price = settings_->medium().price();
    price.setFocus();
    price.selectAll();
}

} // namespace hasami
