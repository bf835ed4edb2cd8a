#pragma once

#include "artwork/picture.h"

#include <QPixmap>
#include <QWidget>

#include <vector>

class QHBoxLayout;
class QLabel;
class QLineEdit;

namespace hasami {

/// A small picture of a colour.
QPixmap chipOf(Rgba colour, QSize size, const QColor& rim);

/// A colour: its name as #RRGGBB to be typed, and chips of those that suit.
class ColourChoice : public QWidget {
    Q_OBJECT
public:
    ColourChoice(const char* name, const char* effect, QWidget* parent = nullptr);

    void show(Rgba colour, const std::vector<Rgba>& suiting);

Q_SIGNALS:
    void chosen(hasami::Rgba colour);

private:
    void showChips();
    void take();

    Rgba colour_;
    std::vector<Rgba> suiting_;
    QLineEdit* field_;
    QLabel* sample_;
    QHBoxLayout* chips_;
};

} // namespace hasami
