#include "app/theme.h"

#include <QApplication>
#include <QFontDatabase>
#include <QPainter>
#include <QPalette>
#include <QStyleFactory>
#include <QSvgRenderer>

/// The resources lie in a static library, which the linker would else leave out.
static void useResources() {
    Q_INIT_RESOURCE(hasami);
}

namespace hasami {

namespace {

QPalette palette() {
    QPalette p;
    p.setColor(QPalette::Window, colour::ground);
    p.setColor(QPalette::WindowText, colour::ink);
    p.setColor(QPalette::Base, Qt::white);
    p.setColor(QPalette::AlternateBase, colour::panel);
    p.setColor(QPalette::Text, colour::ink);
    p.setColor(QPalette::Button, colour::panel);
    p.setColor(QPalette::ButtonText, colour::ink);
    p.setColor(QPalette::Highlight, colour::indigo);
    p.setColor(QPalette::HighlightedText, Qt::white);
    p.setColor(QPalette::ToolTipBase, colour::ink);
    p.setColor(QPalette::ToolTipText, colour::panel);
    p.setColor(QPalette::PlaceholderText, colour::quiet);
    p.setColor(QPalette::Link, colour::indigo);
    p.setColor(QPalette::Disabled, QPalette::ButtonText, QColor(0x8A, 0x90, 0x8D));
    p.setColor(QPalette::Disabled, QPalette::Text, QColor(0x8A, 0x90, 0x8D));
    p.setColor(QPalette::Disabled, QPalette::WindowText, QColor(0x8A, 0x90, 0x8D));
    return p;
}

constexpr auto styleSheet = R"(
QMainWindow { background: #F4F1EA; }
QFrame[role="panel"] { background: #FCFBF8; border: 1px solid #D9D4C8; border-radius: 8px; }
QLabel[role="heading"] { font-weight: 600; }
QLabel[role="quiet"] { color: #5C6663; }
QLabel[role="trouble"] { color: #9A3B12; }
QLabel[role="figure"] { font-weight: 600; font-size: 15px; }
QPushButton { background: #FCFBF8; color: #264E86; border: 1px solid #264E86; border-radius: 8px; padding: 6px 12px; }
QPushButton:hover { background: #E9EDF3; }
QPushButton:pressed { background: #D5DDE9; }
QPushButton:focus { border: 2px solid #264E86; padding: 5px 11px; }
QPushButton:disabled { color: #8A908D; border-color: #C9C6BD; }
QPushButton[role="next"] { background: #264E86; color: white; }
QPushButton[role="next"]:hover { background: #305C9B; }
QPushButton[role="next"]:focus { border: 2px solid #26302E; }
QPushButton[role="place"] { border: 1px solid transparent; border-bottom: 3px solid transparent; border-radius: 0; background: transparent;
                            color: #5C6663; padding: 8px 12px 5px 12px; font-size: 15px; font-weight: 600; }
QPushButton[role="place"]:hover { color: #264E86; }
QPushButton[role="place"]:checked { color: #264E86; border-bottom-color: #264E86; }
QPushButton[role="place"]:focus { border: 1px dashed #264E86; border-bottom: 3px solid transparent; }
QPushButton[role="place"]:checked:focus { border-bottom-color: #264E86; }
QToolButton { border: 1px solid transparent; border-radius: 6px; padding: 3px; background: transparent; }
QToolButton:hover { background: #E9EDF3; }
QToolButton:focus { border: 1px solid #264E86; }
QLineEdit, QComboBox { background: white; border: 1px solid #B9B4A8; border-radius: 6px; padding: 4px 6px; min-height: 20px; }
QLineEdit:focus, QComboBox:focus { border: 2px solid #264E86; padding: 3px 5px; }
QLineEdit[wrong="true"] { border: 2px solid #9A3B12; padding: 3px 5px; }
QComboBox::drop-down { border: none; width: 20px; }
QComboBox::down-arrow { image: url(:/icons/down.svg); width: 12px; height: 12px; }
QSlider { min-height: 24px; }
QSlider::groove:horizontal { height: 4px; background: #D9D4C8; border-radius: 2px; }
QSlider::sub-page:horizontal { background: #264E86; border-radius: 2px; }
QSlider::handle:horizontal { width: 16px; height: 16px; margin: -6px 0; border-radius: 8px; background: #264E86; }
QSlider:focus { border: 1px solid #264E86; border-radius: 6px; }
QListView { background: transparent; border: none; outline: none; }
QScrollArea, QScrollArea > QWidget > QWidget { background: transparent; border: none; }
QToolTip { background: #26302E; color: #FCFBF8; border: none; padding: 4px; }
QMenuBar { background: #F4F1EA; }
QMenuBar::item:selected, QMenu::item:selected { background: #264E86; color: white; }
)";

} // namespace

void applyTheme(QApplication& application) {
    useResources();
    QFontDatabase::addApplicationFont(":/fonts/OpenSans-Regular.ttf");
    QFontDatabase::addApplicationFont(":/fonts/OpenSans-Semibold.ttf");
    QFont font("Open Sans");
    font.setPixelSize(13);
    QApplication::setStyle(QStyleFactory::create("Fusion"));
    QApplication::setFont(font);
    QApplication::setPalette(palette());
    application.setStyleSheet(styleSheet);
}

QIcon icon(const QString& name) {
    QIcon result;
    QSvgRenderer drawing(":/icons/" + name + ".svg");
    for (const int side : {16, 20, 24, 32, 48}) {
        QPixmap picture(side, side);
        picture.fill(Qt::transparent);
        QPainter painter(&picture);
        drawing.render(&painter);
        result.addPixmap(picture);
    }
    return result;
}

} // namespace hasami
