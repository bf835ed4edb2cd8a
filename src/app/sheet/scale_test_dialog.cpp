#include "app/sheet/scale_test_dialog.h"

#include "app/kit/named.h"
#include "app/kit/quantity_field.h"
#include "app/sheet/change_profile.h"

#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>

namespace hasami {

namespace {

/// A page of the sheet's size; of a roll a piece of it.
ScaleTest testFor(const Job& job, const Made& made) {
    constexpr double least = 80, most = 300; // mm
    const double length = made.layout.sheets.empty() ? most : made.layout.sheets.front().length;
    const Medium& medium = job.plan.medium;
    return {medium.width, medium.isRoll() ? std::clamp(length, least, most) : length};
}

} // namespace

ScaleTestDialog::ScaleTestDialog(Document& document, PrintRun& run, const QString& printer, QWidget* parent)
    : QDialog(parent), document_(document), run_(run), test_(testFor(document.job(), *document.made())),
      across_(new QuantityField(QuantityKind::length, test_.across() * PrintScale::least,
                                test_.across() * PrintScale::most)),
      along_(new QuantityField(QuantityKind::length, test_.along() * PrintScale::least,
                               test_.along() * PrintScale::most)),
      state_(new QLabel) {
    setWindowTitle(tr("Scale test"));
    auto* words = new QLabel(
        tr("Print the page, measure both rulers from the first line to the last with a steel rule, and type "
           "what "
           "you measured. Prints to this printer are then compensated for it; the profile keeps it."));
    words->setWordWrap(true);
    auto* print = new QPushButton(tr("Print the test page"));
    print->setObjectName("Print the test page");
    print->setToolTip(tr("A page with a ruler across, one along, and four marks, on %1").arg(printer));
    print->setAutoDefault(false);
    state_->setObjectName("Scale test state");
    state_->setProperty("role", "quiet");
    state_->setWordWrap(true);
    auto* form = new QFormLayout;
    const LengthUnit unit = document.job().unit;
    const PrintScale& scale = document.job().profile.printer.scale;
    for (const auto& [field, name, length] :
         {std::tuple(across_, N_("Measured across"), test_.across() * scale.across),
          std::tuple(along_, N_("Measured along"), test_.along() * scale.along)}) {
        field->setUnit(unit);
        field->show(length);
        form->addRow(labelOf(*field, name, N_("How long the ruler is on the print"), " field"), field);
    }
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
    auto* none = buttons->addButton(tr("No compensation"), QDialogButtonBox::ResetRole);
    none->setObjectName("No compensation");
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(20, 16, 20, 16);
    layout->setSpacing(12);
    layout->addWidget(words);
    layout->addWidget(print);
    layout->addWidget(state_);
    layout->addLayout(form);
    layout->addWidget(buttons);
    connect(print, &QPushButton::clicked, this, [this, printer] { run_.start(test_, printer); });
    connect(&run, &PrintRun::changed, this, &ScaleTestDialog::showRun);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(none, &QPushButton::clicked, this, [this] { keep(test_.across(), test_.along()); });
    connect(buttons, &QDialogButtonBox::accepted, this, [this] {
        const auto across = across_->typed(), along = along_->typed();
        if (across && along)
            keep(*across, *along);
        else
            (across ? along_ : across_)->setFocus(); // nonsense, marked as such
    });
}

void ScaleTestDialog::keep(double across, double along) {
    const PrintScale scale{across / test_.across(), along / test_.along()};
    if (scale != document_.job().profile.printer.scale)
        changeProfile(document_, tr("Printer's scale"),
                      [&](Profile& profile) { profile.printer.scale = scale; });
    accept();
}

void ScaleTestDialog::showRun() {
    state_->setText(run_.text());
}

} // namespace hasami
