#include "app/kit/save_dialog.h"

#include "app/words/words.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>

#include <algorithm>

namespace hasami {

bool mayReplace(QWidget* parent, const QStringList& there) {
    const QString text = there.size() == 1 ? tr("%1 exists already. Replace it?")
                                           : tr("These files exist already: %1. Replace them?");
    QMessageBox question(QMessageBox::Question, "Hasami", text.arg(there.join(", ")), QMessageBox::NoButton,
                         parent);
    auto* replace = question.addButton(tr("Replace"), QMessageBox::AcceptRole);
    question.setDefaultButton(question.addButton(QMessageBox::Cancel));
    question.exec();
    return question.clickedButton() == replace;
}

QString askWhereToSave(QWidget* parent, const QString& title, const QString& suggested,
                       const QList<FileFormat>& formats) {
    QStringList filters;
    for (const FileFormat& format : formats)
        filters << QString("%1 (*%2)").arg(format.name, format.ending);
    QString path = suggested + formats.front().ending, filter;
    do {
        // The dialog itself would ask about the name without its ending.
        path = QFileDialog::getSaveFileName(parent, title, path, filters.join(";;"), &filter,
                                            QFileDialog::DontConfirmOverwrite);
        if (path.isEmpty())
            return {};
        if (std::none_of(formats.begin(), formats.end(), [&](const FileFormat& format) {
                return path.endsWith(format.ending, Qt::CaseInsensitive);
            }))
            path += formats[std::max(qsizetype(0), filters.indexOf(filter))].ending;
    } while (QFileInfo::exists(path) && !mayReplace(parent, {QFileInfo(path).fileName()}));
    return path;
}

} // namespace hasami
