#pragma once

#include "app/document/document.h"

#include <QFrame>

class QCheckBox;
class QLineEdit;
class QListWidget;

namespace hasami {

/// The fonts of the machine, each in its own letters, to be searched by name.
class FontChooser : public QFrame {
    Q_OBJECT
public:
    explicit FontChooser(Document& document, QWidget* parent = nullptr);

    /// Opens it below a button, with the font that is in use, and a text to show.
    void open(const QWidget& button, const FontChoice& inUse, const QString& text);

Q_SIGNALS:
    void chosen(const hasami::KnownFont& font);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void fill();
    void filter();
    void sortByInk();
    void take();

    Document& document_;
    QLineEdit* search_;
    QCheckBox* heavyFirst_;
    QListWidget* list_;
    FontChoice inUse_;
    std::vector<double> ink_; ///< of each font, once it is known
};

} // namespace hasami
