#pragma once

#include "app/document/document.h"

#include <QWidget>

#include <optional>
#include <vector>

class QHBoxLayout;
class QPushButton;

namespace hasami {

/// What the bench shows of a design: what the selected step is about, or one side of the result alone.
struct BenchView {
    enum class What {
        step,
        finished, ///< weeded, on its medium
        print,    ///< all that is printed
        cut,      ///< all that is cut
        ink,      ///< one special ink
    } what = What::step;
    InkKind ink = InkKind::white;

    friend bool operator==(const BenchView&, const BenchView&) = default;
};

/// Buttons for the bench's views; one for each special ink that the design has.
class ViewBar : public QWidget {
    Q_OBJECT
public:
    explicit ViewBar(Document& document, QWidget* parent = nullptr);

    void choose(const BenchView& view);

Q_SIGNALS:
    void viewChanged(const hasami::BenchView& view);

private:
    void showJob();
    void rebuild(const std::vector<BenchView>& views);

    Document& document_;
    QHBoxLayout* layout_;
    std::vector<BenchView> views_;
    std::vector<QPushButton*> buttons_; // of each
    BenchView view_;
};

} // namespace hasami
