#pragma once

#include "app/document/document.h"
#include "checks/inspect.h"

#include <QObject>

#include <functional>
#include <memory>
#include <optional>

namespace hasami {

/// The findings of the document's job, looked for in the background after each change. Those of an older
/// revision are kept until the newer ones are known.
class FindingsWatch : public QObject {
    Q_OBJECT
public:
    explicit FindingsWatch(Document& document, QObject* parent = nullptr);
    ~FindingsWatch() override;

    const std::vector<Finding>& findings() const { return known_->findings; }
    /// Those about one design.
    std::size_t countOf(const std::string& design) const;
    std::size_t errors() const;

    /// Whether they are of the job as it is now.
    bool isUpToDate() const { return known_->revision == document_.made()->revision && document_.isMade(); }

    /// What the newest stickers' outlines show, by design: nullptr where it is not known yet.
    std::shared_ptr<const StickerCheck> checkOf(const std::string& design) const;

    /// How far the cut of a sheet, or of a design alone, may be off; `then` is called once it is known. Only
    /// the newest request is answered.
    void findSafeDrift(const std::optional<std::string>& design, std::size_t sheet, const CutDrift& drift,
                       std::function<void(const SafeDrift&)> then);

    /// What files are like by now; looks again where that has changed.
    void setFilesOutside(const FilesOutside& around);

    /// Applies a finding's change as one undo step. Gives a sentence where it can't be done.
    std::optional<QString> fix(const Finding& finding);

Q_SIGNALS:
    void changed();

private:
    using Checks = std::map<std::string, std::shared_ptr<const StickerCheck>>;
    struct Known {
        std::uint64_t revision = 0;
        std::vector<Finding> findings;
        Checks checks;
    };

    void look();
    void inspectAgain();

    Document& document_;
    FilesOutside around_;
    std::shared_ptr<StickerChecks> stickers_ = std::make_shared<StickerChecks>(); // shared with the work
    std::shared_ptr<const Known> known_ = std::make_shared<const Known>();
    std::stop_source looking_, drifting_;
};

} // namespace hasami
