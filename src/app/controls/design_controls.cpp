#include "app/controls/design_controls.h"

#include "app/kit/named.h"
#include "app/words/words.h"

#include <QComboBox>
#include <QLabel>
#include <QScrollArea>
#include <QVBoxLayout>

namespace hasami {

QuantityRow* designRow(Document& document, const QuantityRow::Description& description, const char* label,
                       std::function<void(Design&, double)> set) {
    auto* made = new QuantityRow(description);
    QObject::connect(made, &QuantityRow::chosen, &document,
                     [&document, made, label, set = std::move(set)](double value) {
                         const std::string id = document.selected();
                         document.change(
                             tr("%1 %2").arg(tr(label), made->words(value)),
                             [&](Job& job) {
                                 if (Design* design = job.find(id)) {
                                     set(*design, value);
                                     keepSharedShape(job, id);
                                 }
                             },
                             label + QString::fromStdString(id));
                     });
    QObject::connect(made, &QuantityRow::rested, &document, &Document::endRun);
    return made;
}

QComboBox* jobChoice(Document& document, QVBoxLayout* layout, const char* name, const char* effect,
                     const QStringList& names, std::function<void(Job&, int)> chosen) {
    auto* box = new QComboBox;
    box->addItems(names);
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon); // as wide as its page
    QLabel* label = labelOf(*box, name, effect, " choice");
    auto* pair = new QVBoxLayout;
    pair->setSpacing(4);
    pair->addWidget(label);
    pair->addWidget(box);
    layout->addLayout(pair);
    QObject::connect(box, &QComboBox::activated, &document,
                     [&document, box, name, chosen = std::move(chosen)](int place) {
                         document.endRun();
                         document.change(tr("%1: %2").arg(tr(name), box->itemText(place)),
                                         [&](Job& job) { chosen(job, place); });
                     });
    return box;
}

QComboBox* designChoice(Document& document, QVBoxLayout* layout, const char* name, const char* effect,
                        const QStringList& names, std::function<void(Design&, int)> chosen) {
    return jobChoice(document, layout, name, effect, names,
                     [&document, chosen = std::move(chosen)](Job& job, int place) {
                         const std::string id = document.selected();
                         if (Design* design = job.find(id)) {
                             chosen(*design, place);
                             keepSharedShape(job, id);
                         }
                     });
}

QLabel* quietText() {
    auto* label = new QLabel;
    label->setProperty("role", "quiet");
    label->setWordWrap(true);
    return label;
}

QWidget* scrolledPage(QWidget* page) {
    auto* area = new QScrollArea;
    area->setWidget(page);
    area->setWidgetResizable(true);
    area->setFrameShape(QFrame::NoFrame);
    area->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    area->setFocusPolicy(Qt::NoFocus);
    area->viewport()->setAutoFillBackground(false);
    page->setAutoFillBackground(false);
    return area;
}

QVBoxLayout* pageLayout(QWidget* page) {
    auto* layout = new QVBoxLayout(page);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(10);
    return layout;
}

} // namespace hasami
