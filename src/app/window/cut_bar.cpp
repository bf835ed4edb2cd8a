#include "app/window/cut_bar.h"

#include "app/kit/elided_label.h"
#include "app/words/words.h"

#include <QHBoxLayout>
#include <QPushButton>
#include <QVBoxLayout>

namespace hasami {

CutBar::CutBar(QWidget* parent) : QWidget(parent) {
    setObjectName("Cut bar");
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(12, 4, 12, 4);
    layout->setSpacing(4);
    hide();
}

void CutBar::add(CutActions actions) {
    Row row{std::move(actions), new QWidget, new ElidedLabel(Qt::ElideRight), new QPushButton(tr("Pause")),
            new QPushButton(tr("Stop"))};
    auto* show = new QPushButton(tr("Show"));
    show->setObjectName("Show cut");
    show->setToolTip(tr("Go to where this cut was started"));
    row.pause->setObjectName("Pause cut");
    row.pause->setToolTip(tr("Pause after the line under way, knife up, or continue"));
    row.stop->setObjectName("Stop cut");
    row.stop->setToolTip(tr("Stop the cut and lift the knife"));
    auto* line = new QHBoxLayout(row.box);
    line->setContentsMargins(0, 0, 0, 0);
    line->addWidget(row.text, 1);
    for (QPushButton* button : {show, row.pause, row.stop}) {
        button->setProperty("role", "small");
        line->addWidget(button);
    }
    connect(show, &QPushButton::clicked, this, row.actions.show);
    connect(row.pause, &QPushButton::clicked, this, [look = row.actions.look, set = row.actions.setPaused] {
        if (const auto cut = look())
            set(!cut->isPaused);
    });
    connect(row.stop, &QPushButton::clicked, this, row.actions.stop);
    layout()->addWidget(row.box);
    rows_.push_back(std::move(row));
    refresh();
}

void CutBar::refresh() {
    bool isAny = false;
    for (const Row& row : rows_) {
        const auto cut = row.actions.look();
        row.box->setVisible(cut.has_value());
        isAny |= cut.has_value();
        if (!cut)
            continue;
        row.text->setWhole(cut->text);
        row.pause->setText(cut->isPaused ? tr("Continue") : tr("Pause"));
        row.pause->setEnabled(!cut->isStopping);
        row.stop->setEnabled(!cut->isStopping);
    }
    setVisible(isAny);
}

} // namespace hasami
