#pragma once

#include "job/job.h"

#include <QWidget>

namespace hasami {

/// A sheet as a machine's profile makes it: marks, quiet zones, what can be used and what stands at the
/// leading edge, with plain stickers as work.
class ProfilePicture : public QWidget {
public:
    explicit ProfilePicture(QWidget* parent = nullptr);

    /// On a medium of this kind.
    void show(const Profile& profile, const Medium& medium);
    const Sheet& sheet() const { return sheet_; }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    Job job_;
    Sheet sheet_;
};

} // namespace hasami
