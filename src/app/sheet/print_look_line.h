#pragma once

#include "app/document/output_writer.h"

#include <QWidget>

class QLabel;
class QToolButton;

namespace hasami {

class ElidedLabel;

/// What a print holds, read from its files again after they were written: one line that unfolds to its
/// plates, and says where they differ from what the job asks for.
class PrintLookLine : public QWidget {
    Q_OBJECT
public:
    /// `number` of the output, from 1.
    explicit PrintLookLine(int number, QWidget* parent = nullptr);

    /// Hidden where nothing was looked at. By the names in `profile` cut lines are known, whose plates have
    /// no area worth a number, and by its order the passes of the print.
    void show(const std::optional<OutputWriter::Look>& look, const Profile& profile);

private:
    void fold();

    QToolButton* more_;
    ElidedLabel* line_;
    QLabel* details_;
};

} // namespace hasami
