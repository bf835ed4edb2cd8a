#pragma once

#include "app/document/document.h"
#include "sheet/nest_sheet.h"

#include <QElapsedTimer>
#include <QObject>
#include <QTimer>

#include <memory>

namespace hasami {

/// A nest of the job's pieces that is searched beside the window. When it ends or is stopped, its best layout
/// goes into the job as one undo step; an edit of what is being nested stops it first.
class NestRun : public QObject {
    Q_OBJECT
public:
    explicit NestRun(Document& document, QObject* parent = nullptr);
    ~NestRun() override;

    /// Begins as soon as the newest revision is made, from the layout that there is.
    void start();
    void stop(); ///< and keeps the best
    bool isOn() const { return isWaiting_ || search_ != nullptr; }
    bool isSettingUp() const; ///< it is on, but does not search yet

    /// The best layout so far; nullptr while there is none.
    const Layout* best() const { return best_.get(); }

    struct Sample {
        double seconds, density;
    };
    const std::vector<Sample>& curve() const { return curve_; }
    double seconds() const; ///< since it began
    double density() const; ///< of the best, 0 to 1

    /// How long it goes on by itself.
    double length() const { return length_; }
    void setLength(double seconds) { length_ = seconds; }

Q_SIGNALS:
    void changed();                     ///< whether it is on, the best or the curve
    void told(const QString& sentence); ///< why it can't begin, or what became of some pieces

private:
    struct Search;

    void begin(const std::shared_ptr<const Made>& made);
    void look();
    void show(const nesting::Nest& nest);
    void finish();
    void giveUp(const QString& why);
    void drop();

    Document& document_;
    bool isWaiting_ = false, isShowing_ = false;
    std::shared_ptr<Search> search_;
    std::shared_ptr<const Layout> best_;
    std::vector<Sample> curve_;
    double length_ = 30;
    std::uint64_t number_ = 0; ///< counts the searches: what is shown late of an old one is dropped
    QElapsedTimer clock_;
    QTimer looking_;
};

} // namespace hasami
