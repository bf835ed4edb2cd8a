#include "app/kit/theme.h"

#include <QApplication>
#include <QFile>
#include <QFontDatabase>
#include <QIconEngine>
#include <QPainter>
#include <QPalette>
#include <QStyle>
#include <QStyleFactory>
#include <QSvgRenderer>
#include <QWidget>

/// The resources lie in a static library, which the linker would else leave out.
static void useResources() {
    Q_INIT_RESOURCE(hasami);
}

namespace hasami {

namespace {

const Colours day{"#F4F1EA", "#FCFBF8", "#FFFFFF", "#26302E", "#5C6663", "#D0CABC",
                  "#264E86", "#FFFFFF", "#E9EDF3", "#8A908D", "#9A3B12"};
const Colours night{"#1E2423", "#272E2D", "#1A1F1E", "#ECEAE3", "#A9B0AD", "#46504D",
                    "#9DBCEA", "#14202F", "#2F3B4C", "#6F7774", "#F0A183"};

QPalette paletteOf(const Colours& c) {
    QPalette p;
    p.setColor(QPalette::Window, c.ground);
    p.setColor(QPalette::WindowText, c.ink);
    p.setColor(QPalette::Base, c.field);
    p.setColor(QPalette::AlternateBase, c.panel);
    p.setColor(QPalette::Text, c.ink);
    p.setColor(QPalette::Button, c.panel);
    p.setColor(QPalette::ButtonText, c.ink);
    p.setColor(QPalette::Highlight, c.indigo);
    p.setColor(QPalette::HighlightedText, c.onIndigo);
    p.setColor(QPalette::ToolTipBase, c.ink);
    p.setColor(QPalette::ToolTipText, c.panel);
    p.setColor(QPalette::PlaceholderText, c.quiet);
    p.setColor(QPalette::Link, c.indigo);
    for (const auto role : {QPalette::ButtonText, QPalette::Text, QPalette::WindowText})
        p.setColor(QPalette::Disabled, role, c.disabled);
    return p;
}

constexpr auto styleSheet = R"(
QMainWindow, QDialog, QMessageBox { background: @ground; }
QWidget { color: @ink; }
QFrame[role="panel"] { background: @panel; border: 1px solid @rule; border-radius: 8px; }
QLabel[role="heading"] { font-weight: 600; }
QLabel[role="quiet"] { color: @quiet; }
QLabel[role="trouble"] { color: @warning; }
QLabel[role="figure"] { font-weight: 600; font-size: 15px; }
QPushButton { background: @panel; color: @indigo; border: 1px solid @indigo; border-radius: 8px; padding: 6px 12px; }
QPushButton:hover { background: @tint; }
QPushButton:pressed { background: @tint; }
QPushButton:focus { border: 2px solid @indigo; padding: 5px 11px; }
QPushButton:disabled { color: @disabled; border-color: @rule; }
QPushButton[role="small"] { padding: 3px 6px; }
QPushButton[role="small"]:focus { padding: 2px 5px; }
QPushButton[role="small"]:checked { background: @indigo; color: @onIndigo; }
QPushButton[role="finding"] { text-align: left; padding: 3px 4px; border: 1px solid transparent; background: transparent; font-weight: 600; }
QPushButton[role="finding"]:hover { color: @indigo; }
QPushButton[role="finding"]:focus { border: 1px dashed @indigo; }
QPushButton[role="next"] { background: @indigo; color: @onIndigo; }
QPushButton[role="next"]:hover { background: @indigo; }
QPushButton[role="next"]:focus { border: 2px solid @ink; }
QPushButton[role="next"]:disabled { background: @panel; color: @disabled; }
QPushButton[role="place"] { border: 1px solid transparent; border-bottom: 3px solid transparent; border-radius: 0; background: transparent;
                            color: @quiet; padding: 8px 12px 5px 12px; font-size: 15px; font-weight: 600; }
QPushButton[role="place"]:hover { color: @indigo; }
QPushButton[role="place"]:checked { color: @indigo; border-bottom-color: @indigo; }
QPushButton[role="place"]:focus { border: 1px dashed @indigo; border-bottom: 3px solid transparent; }
QPushButton[role="place"]:checked:focus { border-bottom-color: @indigo; }
QToolButton { border: 1px solid transparent; border-radius: 6px; padding: 3px; background: transparent; }
QToolButton:hover { background: @tint; }
QToolButton:focus { border: 1px solid @indigo; }
QLineEdit, QComboBox { background: @field; border: 1px solid @rule; border-radius: 6px; padding: 4px 6px; min-height: 20px; }
QPlainTextEdit { background: @field; border: 1px solid @rule; border-radius: 6px; padding: 1px 2px; }
QPlainTextEdit:focus { border: 2px solid @indigo; padding: 0px 1px; }
QLineEdit:focus, QComboBox:focus { border: 2px solid @indigo; padding: 3px 5px; }
QLineEdit:disabled, QComboBox:disabled { color: @disabled; }
QLineEdit[wrong="true"] { border: 2px solid @warning; padding: 3px 5px; }
QComboBox::drop-down { border: none; width: 20px; }
QComboBox::down-arrow { image: url(:/icons/@down.svg); width: 12px; height: 12px; }
QSlider { min-height: 24px; }
QSlider::groove:horizontal { height: 4px; background: @rule; border-radius: 2px; }
QSlider::sub-page:horizontal { background: @indigo; border-radius: 2px; }
QSlider::handle:horizontal { width: 16px; height: 16px; margin: -6px 0; border-radius: 8px; background: @indigo; }
QSlider:focus { border: 1px solid @indigo; border-radius: 6px; }
QListView { background: transparent; border: none; outline: none; }
QListView::indicator { width: 12px; height: 12px; border: 1px solid @quiet; border-radius: 3px; background: @field; }
QListView::indicator:checked { background: @indigo; border-color: @indigo; }
QListWidget::item:selected { background: @tint; color: @ink; }
QListWidget:focus { border: 1px solid @indigo; border-radius: 6px; }
QTabWidget::pane { background: @panel; border: 1px solid @rule; border-radius: 8px; }
QTabBar::tab { border: none; border-bottom: 3px solid transparent; background: transparent; color: @quiet; padding: 6px 12px; font-weight: 600; }
QTabBar::tab:hover { color: @indigo; }
QTabBar::tab:selected { color: @indigo; border-bottom-color: @indigo; }
QTabBar::tab:focus { border: 1px dashed @indigo; }
QScrollArea, QScrollArea > QWidget > QWidget { background: transparent; border: none; }
QScrollBar:vertical { background: transparent; width: 12px; margin: 0; }
QScrollBar::handle:vertical { background: @rule; border-radius: 4px; min-height: 24px; margin-left: 4px; }
QScrollBar::handle:vertical:hover { background: @quiet; }
QScrollBar::add-line:vertical, QScrollBar::sub-line:vertical { height: 0; }
QScrollBar::add-page:vertical, QScrollBar::sub-page:vertical { background: transparent; }
QToolTip { background: @ink; color: @panel; border: none; padding: 4px; }
QMenuBar { background: @ground; }
QMenuBar::item:selected, QMenu::item:selected { background: @indigo; color: @onIndigo; }
)";

QString styleSheetOf(const Colours& c) {
    QString sheet = styleSheet;
    const std::pair<const char*, const QColor*> names[] = {
        {"@ground", &c.ground},     {"@panel", &c.panel},    {"@field", &c.field},
        {"@ink", &c.ink},           {"@quiet", &c.quiet},    {"@rule", &c.rule},
        {"@onIndigo", &c.onIndigo}, {"@indigo", &c.indigo},  {"@tint", &c.tint},
        {"@disabled", &c.disabled}, {"@warning", &c.warning}};
    for (const auto& [name, value] : names)
        sheet.replace(name, value->name());
    return sheet.replace("@down", &c == &night ? "down-night" : "down");
}

/// Draws an icon of ours in the colours of the day, so that it follows when they change.
class ThemedIcon : public QIconEngine {
public:
    explicit ThemedIcon(QString name) : name_(std::move(name)) {}

    void paint(QPainter* painter, const QRect& rect, QIcon::Mode mode, QIcon::State) override {
        QFile file(":/icons/" + name_ + ".svg");
        if (!file.open(QIODevice::ReadOnly))
            return;
        const Colours& c = coloursOf(QApplication::palette());
        QByteArray drawing = file.readAll();
        const bool disabled = mode == QIcon::Disabled;
        const std::pair<const QColor*, const QColor*> changes[] = {
            {&day.ink, &c.ink}, {&day.indigo, &c.indigo}, {&day.quiet, &c.quiet}};
        for (const auto& [from, to] : changes)
            drawing.replace(from->name().toUpper().toUtf8(), (disabled ? c.disabled : *to).name().toUtf8());
        QSvgRenderer(drawing).render(painter, rect);
    }

    QPixmap pixmap(const QSize& size, QIcon::Mode mode, QIcon::State state) override {
        QPixmap picture(size);
        picture.fill(Qt::transparent);
        QPainter painter(&picture);
        paint(&painter, QRect(QPoint(), size), mode, state);
        return picture;
    }

    QIconEngine* clone() const override { return new ThemedIcon(name_); }

private:
    QString name_;
};

} // namespace

const Colours& coloursOf(const QPalette& palette) {
    return palette.color(QPalette::Window).lightness() < 128 ? night : day;
}

void applyTheme(QApplication&, Appearance appearance) {
    useResources();
    QFontDatabase::addApplicationFont(":/fonts/OpenSans-Regular.ttf");
    QFontDatabase::addApplicationFont(":/fonts/OpenSans-Semibold.ttf");
    QFont font("Open Sans");
    font.setPixelSize(13);
    const Colours& colours = appearance == Appearance::dark ? night : day;
    QApplication::setStyle(QStyleFactory::create("Fusion"));
    QApplication::setFont(font);
    QApplication::setPalette(paletteOf(colours));
    for (QWidget* window : QApplication::topLevelWidgets())
        if (!window->styleSheet().isEmpty())
            styleWindow(*window);
}

void styleWindow(QWidget& window) {
    window.setStyleSheet(styleSheetOf(coloursOf(QApplication::palette())));
}

void setStyled(QWidget& widget, const char* property, const QVariant& value) {
    if (widget.property(property) == value)
        return;
    widget.setProperty(property, value);
    widget.style()->unpolish(&widget);
    widget.style()->polish(&widget);
}

QIcon icon(const QString& name) {
    return QIcon(new ThemedIcon(name));
}

} // namespace hasami
