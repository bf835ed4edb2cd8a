#pragma once

#include "app/document/findings_watch.h"
#include "app/proof/proof_view.h"

#include <QWidget>

class QComboBox;
class QLabel;
class QPushButton;

namespace hasami {

class DriftPad;
class FindingsList;
class PromptLine;
class QuantityRow;

/// The third place: what is wrong, how far the cut may be off, and what the stickers look like when it is.
class ProofPlace : public QWidget {
    Q_OBJECT
public:
    ProofPlace(Document& document, FindingsWatch& watch, QWidget* parent = nullptr);

    ProofView& view() { return *view_; }
    DriftPad& pad() { return *pad_; }

    /// Shows a finding's place.
    void showFinding(const Finding& finding);

Q_SIGNALS:
    void stickersWanted();
    void sheetWanted();
    void profileWanted(); ///< to be changed
    void priceWanted();   ///< of the medium, to be entered
    void told(const QString& sentence);

protected:
    void showEvent(QShowEvent* event) override;

private:
    QWidget* makeSide();
    QWidget* makeBar();
    QWidget* makeDriftPanel();
    void listSubjects();
    void showSubject(int number);
    void showSide();
    void showPrompt();
    void setDrift(const CutDrift& drift);
    void showWorst();
    void askForSafeDrift();
    void showSafe(const SafeDrift& safe);
    void showVerdict();
    void chooseGround(Backdrop backdrop);
    void showProfile();
    void savePicture(bool withScale);
    QuantityRow* addRow(QWidget* panel, const char* name, const char* effect, bool isAngle,
                        double CutDrift::*value);

    Document& document_;
    FindingsWatch& watch_;
    PromptLine* prompt_;
    FindingsList* findings_;
    ProofView* view_;
    DriftPad* pad_;
    QComboBox *subject_, *ground_, *colours_;
    std::string profile_; ///< that the colours are shown by: its asset
    QPushButton *before_, *behind_;
    QLabel *verdict_, *here_;
    QPushButton* measured_; ///< while errors are assumed
    std::vector<std::pair<QuantityRow*, double CutDrift::*>> rows_;
    std::vector<std::optional<std::string>> subjects_; ///< of the box: a design, or the sheet of its number
    std::optional<SafeDrift> safe_;
    int lastGround_ = 0;
};

} // namespace hasami
