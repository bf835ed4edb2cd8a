#include "app/sheet/machine_row.h"

#include "app/kit/elided_label.h"
#include "app/kit/named.h"
#include "app/kit/theme.h"
#include "app/sheet/change_profile.h"
#include "app/sheet/kinds_button.h"
#include "base/error.h"
#include "files/devices/send.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPushButton>

namespace hasami {

MachineRow::MachineRow(Document& document, SendRun& run, QWidget* parent)
    : OptionsRow(parent), document_(document), run_(run), connection_(new QLineEdit),
      kinds_(new KindsButton("machine")), sheet_(new QComboBox), state_(new ElidedLabel(Qt::ElideRight)),
      send_(new QPushButton(tr("Send"))), pause_(new QPushButton(tr("Pause"))),
      stop_(new QPushButton(tr("Stop"))) {
    QHBoxLayout* options = &this->options();
    QLabel* name = labelOf(*connection_, N_("Machine"),
                           N_("Where the cutter is reached: tcp:HOST:PORT, device:PATH, device:PATH,BAUD, "
                              "device:PATH,BAUD,rtscts, or folder:PATH that its software watches"),
                           " field");
    name->setProperty("role", "heading");
    options->addWidget(name);
    options->addWidget(connection_, 1);
    options->addWidget(kinds_);
    options->addWidget(sheet_);
    nameControl(*sheet_, N_("Sheet to send"), N_("One sheet is cut after the other"), "");
    connection_->setPlaceholderText(tr("for instance %1").arg("tcp:192.168.0.20:9100"));
    state_->setObjectName("Send state");
    state_->setProperty("role", "quiet");
    send_->setObjectName("Send");
    send_->setToolTip(tr("Send the cut lines of the sheet to the machine: it begins at once"));
    pause_->setObjectName("Pause sending");
    pause_->setCheckable(true);
    pause_->setToolTip(tr(
        "Send nothing more from the end of the line under way on, knife up; the machine ends what it has"));
    stop_->setObjectName("Stop sending");
    stop_->setToolTip(tr("Send nothing more, and lift the knife"));
    QHBoxLayout* layout = &line();
    layout->addWidget(state_, 1);
    layout->addWidget(send_);
    layout->addWidget(pause_);
    layout->addWidget(stop_);
    connect(connection_, &QLineEdit::editingFinished, this,
            [this] { setConnection(connection_->text().trimmed()); });
    connect(send_, &QPushButton::clicked, this,
            [this] { run_.start(std::size_t(std::max(0, sheet_->currentIndex())), kinds_->kinds()); });
    connect(pause_, &QPushButton::clicked, &run, &SendRun::setPaused);
    connect(stop_, &QPushButton::clicked, &run, &SendRun::stop);
    connect(&run, &SendRun::changed, this, &MachineRow::showRun);
    showRun();
}

/// What is no machine is said at once, and not taken.
void MachineRow::setConnection(const QString& text) {
    const std::string connection = text.toStdString();
    QString trouble;
    try {
        if (!connection.empty())
            SendTarget::parse(connection);
    } catch (const InputError& error) {
        trouble = QString::fromUtf8(error.what());
    }
    setStyled(*connection_, "wrong", !trouble.isEmpty());
    if (!trouble.isEmpty()) {
        state_->setWhole(trouble);
        setStyled(*state_, "role", "trouble");
    } else if (connection != document_.job().profile.cutter.connection) {
        changeProfile(document_, tr("Connection %1").arg(text),
                      [&](Profile& profile) { profile.cutter.connection = connection; });
    } else {
        showRun();
    }
}

void MachineRow::showJob() {
    if (!connection_->hasFocus() || !connection_->isModified()) {
        connection_->setText(QString::fromStdString(document_.job().profile.cutter.connection));
        setStyled(*connection_, "wrong", false);
    }
    const int sheets = int(document_.made()->layout.sheets.size());
    while (sheet_->count() > std::max(1, sheets))
        sheet_->removeItem(sheet_->count() - 1);
    while (sheet_->count() < sheets)
        sheet_->addItem(tr("Sheet %1").arg(sheet_->count() + 1));
    sheet_->setVisible(sheets > 1);
    showRun();
}

void MachineRow::showRun() {
    const bool isOn = run_.isOn();
    const bool isReachable = !document_.job().profile.cutter.connection.empty();
    send_->setVisible(!isOn);
    send_->setEnabled(isReachable && !document_.made()->layout.sheets.empty());
    pause_->setVisible(isOn);
    stop_->setVisible(isOn);
    pause_->setChecked(run_.state() == SendRun::State::paused);
    pause_->setText(pause_->isChecked() ? tr("Go on") : tr("Pause"));
    for (QWidget* control : std::initializer_list<QWidget*>{connection_, kinds_, sheet_})
        control->setEnabled(!isOn);
    state_->setWhole(!run_.text().isEmpty() ? run_.text()
                     : isReachable          ? tr("Nothing sent yet")
                                            : tr("Type where the cutter is reached to send to it"));
    setStyled(*state_, "role", run_.state() == SendRun::State::failed ? "trouble" : "quiet");
}

} // namespace hasami
