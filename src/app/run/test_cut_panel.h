#pragma once

#include "machine/test_cut.h"
#include "rehearsal/training.h"

#include <QWidget>

#include <functional>
#include <optional>

class QHBoxLayout;

namespace hasami {

class QuantityField;

/// The drops of a test cut, of which the operator takes one, and the blade's depth.
class TestCutPanel : public QWidget {
    Q_OBJECT
public:
    explicit TestCutPanel(QWidget* parent = nullptr);

    /// How deep a simulated knife went with a force; nothing on a real machine, where one looks.
    using Depths = std::function<std::optional<CutDepth>(double force)>;
    void showTest(const std::optional<TestCut>& test, std::optional<double> bladeDepth,
                  const Depths& depths = {});

Q_SIGNALS:
    void forceTaken(double force);   ///< g
    void depthEntered(double depth); ///< mm; 0: as it is set

private:
    void addDrop(double force, std::optional<CutDepth> depth);

    QHBoxLayout* drops_;
    QuantityField* depth_;
};

} // namespace hasami
