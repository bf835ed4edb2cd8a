#include "app/stickers/view_bar.h"

#include "app/paint/line_names.h"
#include "app/words/words.h"

#include <QHBoxLayout>
#include <QPushButton>

#include <algorithm>

namespace hasami {

namespace {

const char* nameOf(const BenchView& view) {
    switch (view.what) {
    case BenchView::What::step:
        return N_("The step");
    case BenchView::What::finished:
        return N_("Finished");
    case BenchView::What::print:
        return N_("Print");
    case BenchView::What::cut:
        return N_("Cut");
    case BenchView::What::ink:
        return englishNameOf(view.ink);
    }
    return "";
}

QString effectOf(const BenchView& view) {
    switch (view.what) {
    case BenchView::What::step:
        return tr("What the chosen step is about");
    case BenchView::What::finished:
        return tr("As it looks once printed, cut and weeded");
    case BenchView::What::print:
        return tr("All that is printed, with the bleed");
    case BenchView::What::cut:
        return tr("All that is cut, and nothing else");
    case BenchView::What::ink:
        return tr("This ink alone, on a dark ground");
    }
    return {};
}

} // namespace

ViewBar::ViewBar(Document& document, QWidget* parent)
    : QWidget(parent), document_(document), layout_(new QHBoxLayout(this)) {
    layout_->setContentsMargins(0, 0, 0, 0);
    layout_->setSpacing(4);
    setObjectName("View bar");
    setAccessibleName(tr("Views of the design"));
    connect(&document, &Document::jobChanged, this, &ViewBar::showJob);
    connect(&document, &Document::selectionChanged, this, &ViewBar::showJob);
    showJob();
}

void ViewBar::choose(const BenchView& view) {
    const auto found = std::find(views_.begin(), views_.end(), view);
    if (found == views_.end())
        return;
    for (std::size_t i = 0; i < buttons_.size(); ++i)
        buttons_[i]->setChecked(views_[i] == view);
    if (view_ == view)
        return;
    view_ = view;
    Q_EMIT viewChanged(view_);
}

void ViewBar::showJob() {
    using What = BenchView::What;
    std::vector<BenchView> views{{What::step}, {What::finished}, {What::print}, {What::cut}};
    const Design* design = document_.selectedDesign();
    if (design)
        for (const InkLayer& layer : design->recipe.inks)
            views.push_back({What::ink, layer.ink});
    setVisible(design != nullptr);
    if (views == views_)
        return;
    rebuild(views);
    const bool isGone = std::find(views_.begin(), views_.end(), view_) == views_.end();
    choose(isGone ? BenchView{} : view_);
}

void ViewBar::rebuild(const std::vector<BenchView>& views) {
    views_ = views;
    buttons_.clear();
    while (QLayoutItem* item = layout_->takeAt(0)) {
        delete item->widget();
        delete item;
    }
    for (std::size_t i = 0; i < views_.size(); ++i) {
        const char* name = nameOf(views_[i]);
        auto* button = new QPushButton(tr(name));
        button->setCheckable(true);
        button->setProperty("role", "small");
        button->setObjectName(QString(name) + " view");
        button->setToolTip(effectOf(views_[i]));
        // In a group of Qt's, Tab would reach the chosen one alone.
        connect(button, &QPushButton::clicked, this, [this, i] {
            buttons_[i]->setChecked(true);
            choose(views_[i]);
        });
        buttons_.push_back(button);
        layout_->addWidget(button);
    }
    layout_->addStretch(1);
}

} // namespace hasami
