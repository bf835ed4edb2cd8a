#include "app/proof/costs_panel.h"

#include "app/kit/named.h"
#include "app/kit/save_dialog.h"
#include "app/words/words.h"
#include "files/file_name.h"
#include "files/safe_write.h"
#include "workshop/route_sheet.h"

#include <QAbstractButton>
#include <QClipboard>
#include <QGridLayout>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLocale>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>

#include <algorithm>

namespace hasami {

namespace {

/// Nothing where no price is known that it comes of.
using Amount = std::optional<double>;

const QString unknown = QStringLiteral("–");

QString money(Amount amount) {
    return amount ? QLocale().toString(*amount, 'f', 2) : unknown;
}

QString moneyOfOne(Amount amount) {
    return amount ? QLocale().toString(*amount, 'f', *amount < 1 ? 3 : 2) : unknown;
}

Amount where(bool isKnown, double amount) {
    return isKnown ? Amount(amount) : std::nullopt;
}

bool knowsPrices(const Job& job) {
    return job.plan.medium.price > 0 || job.prices.ink > 0 || job.prices.machine > 0 || job.prices.wage > 0;
}

} // namespace

CostsPanel::CostsPanel(Document& document, QWidget* parent)
    : QScrollArea(parent), document_(document), prices_(new SettingsGroup(document, N_("Prices"))),
      table_(new QTableWidget(0, 4)), parts_(new QWidget), noPrice_(new QLabel),
      enter_(new QPushButton(tr("Enter the price…"))), good_(new QLabel), curve_(new CountCurve) {
    setObjectName("Costs");
    setProperty("role", "panel");
    setWidgetResizable(true);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setFixedWidth(292);
    auto* page = new QWidget;
    auto* layout = new QVBoxLayout(page);
    layout->setContentsMargins(10, 10, 10, 10);
    layout->setSpacing(8);
    table_->setObjectName("Costs table");
    table_->setAccessibleName(tr("Costs by design and sheet"));
    table_->setToolTip(tr("Choose a line to see what its costs are made of"));
    table_->setHorizontalHeaderLabels({tr("Design"), tr("Number"), tr("Each"), tr("All")});
    table_->verticalHeader()->hide();
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->setSelectionMode(QAbstractItemView::SingleSelection);
    table_->setShowGrid(false);
    table_->setTabKeyNavigation(false);
    table_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    for (const int column : {1, 2, 3}) {
        table_->horizontalHeader()->setSectionResizeMode(column, QHeaderView::Fixed);
        table_->setColumnWidth(column, 58);
    }
    table_->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
    table_->setFixedHeight(190);
    connect(table_, &QTableWidget::itemSelectionChanged, this, &CostsPanel::showRow);
    layout->addWidget(table_);
    table_->findChild<QAbstractButton*>()->setObjectName(
        "qt_corner"); // of no size, as there are no row heads
    parts_->setObjectName("Cost parts");
    auto* grid = new QGridLayout(parts_);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setVerticalSpacing(2);
    grid->setColumnStretch(0, 1);
    layout->addWidget(parts_);
    noPrice_->setText(tr("The price of the medium is not known; other prices are entered below."));
    noPrice_->setObjectName("No price");
    noPrice_->setWordWrap(true);
    noPrice_->setProperty("role", "quiet");
    layout->addWidget(noPrice_);
    enter_->setObjectName("Enter the price");
    enter_->setProperty("role", "small");
    enter_->setToolTip(tr("Goes to the medium's price on the sheet"));
    connect(enter_, &QPushButton::clicked, this, &CostsPanel::priceWanted);
    layout->addWidget(enter_, 0, Qt::AlignLeft);
    auto* buttons = new QHBoxLayout;
    for (const auto& [name, effect, isCopy] :
         {std::tuple(N_("Copy table"), N_("Copies the costs, to be pasted into a sheet of figures"), true),
          std::tuple(N_("Save as CSV"), N_("Writes the costs as a file that other programs read"), false)}) {
        auto* button = new QPushButton(tr(name));
        button->setObjectName(name);
        button->setToolTip(tr(effect));
        button->setProperty("role", "small");
        if (isCopy)
            connect(button, &QPushButton::clicked, this,
                    [this] { QGuiApplication::clipboard()->setText(asText()); });
        else
            connect(button, &QPushButton::clicked, this, &CostsPanel::saveCsv);
        buttons->addWidget(button);
    }
    buttons->addStretch(1);
    layout->addLayout(buttons);
    layout->addWidget(curve_);
    good_->setObjectName("Good counts");
    good_->setWordWrap(true);
    good_->setProperty("role", "quiet");
    layout->addWidget(good_);
    addPrices();
    layout->addWidget(prices_);
    layout->addStretch(1);
    setWidget(page);
    connect(&document, &Document::madeChanged, this, &CostsPanel::compute);
    connect(&document, &Document::jobChanged, this, &CostsPanel::showJob);
    showJob();
}

void CostsPanel::addPrice(const char* name, const char* effect, double most, double Prices::*value) {
    QuantityField* field =
        prices_->addNumber(name, effect, QuantityKind::number, 0, most,
                           [value](Job& job, double amount) { job.prices.*value = amount; });
    fields_.emplace_back(field, value);
}

void CostsPanel::addPrices() {
    addPrice(N_("Ink for a square metre"), N_("What the ink for a square metre of print costs"), 1e6,
             &Prices::ink);
    addPrice(N_("Machine for an hour"), N_("What an hour of the cutter costs"), 1e6, &Prices::machine);
    addPrice(N_("Wage for an hour"), N_("What an hour of weeding costs"), 1e6, &Prices::wage);
    addPrice(N_("Margin in percent"), N_("What the price is above the costs"), 10'000, &Prices::margin);
    addPrice(N_("Seconds to weed one"), N_("How long a sticker takes to be weeded, however small"), 3600,
             &Prices::weedPiece);
    addPrice(N_("Seconds for a metre"), N_("How much longer each metre of cut lines takes"), 3600,
             &Prices::weedMetre);
}

void CostsPanel::showEvent(QShowEvent* event) {
    QScrollArea::showEvent(event);
    compute();
}

void CostsPanel::showJob() {
    for (const auto& [field, value] : fields_)
        prices_->show(field, document_.job().prices.*value);
}

void CostsPanel::compute() {
    if (!isVisible() || !document_.isMade())
        return;
    computing_.request_stop();
    computing_ = runInBackground(
        document_.background().figures, this, tr("The costs can't be worked out"),
        [job = document_.sharedJob(), made = document_.made()](const std::stop_token& stop) {
            std::vector<CutProgram> programs;
            programs.reserve(made->layout.sheets.size());
            for (const Sheet& sheet : made->layout.sheets)
                programs.push_back(programOf(*job, *made, sheet, {}, stop));
            Result result;
            result.designs = stickerCosts(*job, *made, programs);
            constexpr std::size_t mostSheets = 50;
            if (const std::size_t sheets = made->layout.sheets.size(); sheets > 1)
                for (std::size_t i = 0; i < std::min(sheets, mostSheets); ++i)
                    result.sheets.push_back(stickerCosts(*job, *made, programs, i).back());
            return result;
        },
        [this](const Outcome<Result>& result) {
            if (result.value)
                showResult(*result.value);
        });
}

void CostsPanel::showResult(const Result& result) {
    const int chosen = std::max(0, table_->currentRow());
    ofDesigns_ = result.designs;
    rows_.clear();
    for (std::size_t i = 0; i + 1 < result.designs.size(); ++i)
        if (const Design* design = document_.job().find(result.designs[i].design))
            rows_.push_back({QString::fromStdString(design->name), result.designs[i]});
    for (std::size_t i = 0; i < result.sheets.size(); ++i)
        rows_.push_back({tr("Sheet %1").arg(i + 1), result.sheets[i]});
    if (!result.designs.empty())
        rows_.push_back({tr("All"), result.designs.back()});
    table_->setRowCount(int(rows_.size()));
    const bool isKnown = knowsPrices(document_.job());
    for (int i = 0; i < int(rows_.size()); ++i) {
        const Row& row = rows_[std::size_t(i)];
        const QString texts[] = {row.name, QString::number(row.costs.count),
                                 moneyOfOne(where(isKnown, row.costs.each())),
                                 money(where(isKnown, row.costs.costs.total()))};
        for (int column = 0; column < 4; ++column) {
            auto* item = new QTableWidgetItem(texts[column]);
            item->setTextAlignment((column == 0 ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter);
            item->setToolTip(texts[column]);
            table_->setItem(i, column, item);
        }
    }
    table_->selectRow(std::min(chosen, int(rows_.size()) - 1));
    showRow();
}

void CostsPanel::showParts(const CostRow& costs) {
    auto* grid = static_cast<QGridLayout*>(parts_->layout());
    while (QLayoutItem* item = grid->takeAt(0)) {
        item->widget()->deleteLater();
        delete item;
    }
    const auto add = [&](const QString& name, Amount amount, bool isSum = false) {
        const int row = grid->rowCount();
        int column = 0;
        for (const QString& text : {name, moneyOfOne(amount)}) {
            auto* label = new QLabel(text);
            label->setProperty("role", isSum ? "heading" : "");
            grid->addWidget(label, row, column, column == 0 ? Qt::AlignLeft : Qt::AlignRight);
            ++column;
        }
    };
    const double one = costs.count > 0 ? 1 / double(costs.count) : 0;
    const CostParts each = costs.costs * one;
    const auto seconds = [&](double minutes) { return QLocale().toString(60 * minutes * one, 'f', 1); };
    const Job& job = document_.job();
    const bool isKnown = knowsPrices(job);
    add(tr("Medium for each"), where(job.plan.medium.price > 0, each.medium));
    add(tr("Ink for each"), where(job.prices.ink > 0, each.ink));
    add(tr("Cutting each, %1 s").arg(seconds(costs.minutes)), where(job.prices.machine > 0, each.machine));
    add(tr("Weeding each, %1 s").arg(seconds(costs.weedMinutes)), where(job.prices.wage > 0, each.weeding));
    add(tr("Costs for each"), where(isKnown, each.total()), true);
    if (const double margin = job.prices.margin; margin > 0)
        add(tr("Price with %1 % margin").arg(QLocale().toString(margin)), where(isKnown, costs.priceOfEach()),
            true);
}

void CostsPanel::showRow() {
    const int row = table_->currentRow();
    const bool isRow = row >= 0 && std::size_t(row) < rows_.size();
    parts_->setVisible(isRow);
    for (QWidget* widget : std::initializer_list<QWidget*>{noPrice_, enter_})
        widget->setVisible(document_.job().plan.medium.price == 0);
    if (!isRow) {
        good_->clear();
        return curve_->show({}, 0, false);
    }
    showParts(rows_[std::size_t(row)].costs);
    askForCounts();
}

void CostsPanel::askForCounts() {
    const int row = table_->currentRow();
    const std::string design = rows_.at(std::size_t(row)).costs.design;
    const int now = int(rows_[std::size_t(row)].costs.count);
    counting_.request_stop();
    good_->clear();
    curve_->setVisible(!design.empty());
    if (design.empty())
        return;
    const bool isMoney = document_.job().plan.medium.price > 0;
    counting_ = runInBackground(
        document_.background().figures, this, tr("The costs can't be worked out"),
        [job = document_.sharedJob(), made = document_.made(), design, now](const std::stop_token& stop) {
            constexpr int least = 24;
            return costsByCount(*job, *made, design, std::max(least, 2 * now), stop);
        },
        [this, now, isMoney](const Outcome<std::vector<CountCost>>& costs) {
            if (!costs.value)
                return;
            curve_->show(*costs.value, now, isMoney);
            QStringList good;
            for (const CountCost& cost : *costs.value)
                if (cost.isGood && cost.count >= now / 2 && good.size() < 5)
                    good << QString::number(cost.count);
            good_->setText(
                good.isEmpty()
                    ? QString()
                    : tr("Good counts, laid alone: %1. One more makes each dearer.").arg(good.join(", ")));
        });
}

QString CostsPanel::asText() const {
    QString text =
        QStringList{tr("Design"), tr("Number"), tr("Each"), tr("All"), tr("Price")}.join('\t') + "\n";
    const bool isKnown = knowsPrices(document_.job());
    for (const Row& row : rows_)
        text += QStringList{row.name, QString::number(row.costs.count),
                            moneyOfOne(where(isKnown, row.costs.each())),
                            money(where(isKnown, row.costs.costs.total())),
                            money(where(isKnown, row.costs.price))}
                    .join('\t') +
                "\n";
    return text;
}

void CostsPanel::saveCsv() {
    const QString path = askWhereToSave(
        this, tr("Save as CSV"), document_.title() + "-" + tr("costs") + ".csv", {{tr("Table"), ".csv"}});
    if (path.isEmpty())
        return;
    try {
        writeSafely(toPath(path), costsCsv(document_.job(), ofDesigns_));
    } catch (const std::exception& error) {
        Q_EMIT told(QString::fromStdString(error.what()));
    }
}

} // namespace hasami
