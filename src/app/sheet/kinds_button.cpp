#include "app/sheet/kinds_button.h"

#include "app/paint/line_names.h"

#include <QMenu>

namespace hasami {

namespace {

constexpr std::array kindsAsCut{LineKind::kiss, LineKind::crease, LineKind::perforated, LineKind::die};

} // namespace

QString namesOf(const LineKinds& kinds) {
    QStringList names;
    for (const LineKind kind : kinds)
        names << nameOf(kind);
    return names.join(", ");
}

KindsButton::KindsButton(const QString& name, QWidget* parent) : QPushButton(parent) {
    setProperty("role", "small");
    setObjectName("Kinds of " + name);
    setToolTip(tr("Which kinds of line are meant"));
    auto* menu = new QMenu(this);
    for (const LineKind kind : kindsAsCut) {
        QAction* action = menu->addAction(signOf(kind), nameOf(kind));
        action->setCheckable(true);
        action->setObjectName(QString("Kind %1 of %2").arg(englishNameOf(kind), name));
        connect(action, &QAction::triggered, this, [this, kind](bool isOn) {
            LineKinds kinds;
            for (const LineKind each : kindsAsCut)
                if (each == kind ? isOn : holds(kinds_, each))
                    kinds.push_back(each);
            show(kinds.size() == kindsAsCut.size() ? LineKinds() : kinds);
            Q_EMIT chosen(kinds_);
        });
    }
    setMenu(menu);
    show({});
}

void KindsButton::show(const LineKinds& kinds) {
    kinds_ = kinds;
    setText(kinds.empty() ? tr("All kinds") : namesOf(kinds));
    const QList<QAction*> actions = menu()->actions();
    for (std::size_t i = 0; i < kindsAsCut.size(); ++i)
        actions[qsizetype(i)]->setChecked(holds(kinds, kindsAsCut[i]));
}

} // namespace hasami
