#pragma once

#include <QWidget>

#include <functional>
#include <optional>
#include <vector>

class QPushButton;

namespace hasami {

class ElidedLabel;

/// A cut under way, as the bar shows it.
struct CutUnderWay {
    QString text; ///< what is cut where, and how far
    bool isPaused = false, isStopping = false;
};

/// What one can do with it.
struct CutActions {
    std::function<std::optional<CutUnderWay>()> look; ///< nothing: no cut is under way
    std::function<void(bool)> setPaused;
    std::function<void()> stop;
    std::function<void()> show; ///< its place
};

/// Shows each cut that is under way, with its Pause and Stop, in whatever place of the window one is: nothing
/// that moves a knife runs out of sight.
class CutBar : public QWidget {
    Q_OBJECT
public:
    explicit CutBar(QWidget* parent = nullptr);

    void add(CutActions actions);
    void refresh();

private:
    struct Row {
        CutActions actions;
        QWidget* box;
        ElidedLabel* text;
        QPushButton *pause, *stop;
    };
    std::vector<Row> rows_;
};

} // namespace hasami
