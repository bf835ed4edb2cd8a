#include "app/kit/named.h"

#include "app/words/words.h"

#include <QLabel>

namespace hasami {

void nameControl(QWidget& control, const char* name, const char* effect, const char* kind) {
    control.setObjectName(QString::fromUtf8(name) + kind);
    control.setAccessibleName(tr(name));
    control.setToolTip(tr(effect));
}

QLabel* labelOf(QWidget& control, const char* name, const char* effect, const char* kind) {
    nameControl(control, name, effect, kind);
    auto* label = new QLabel(tr(name));
    label->setBuddy(&control);
    label->setWordWrap(true);
    QSizePolicy policy = label->sizePolicy();
    policy.setVerticalPolicy(QSizePolicy::Minimum); // not squeezed where its page is tight
    label->setSizePolicy(policy);
    return label;
}

} // namespace hasami
