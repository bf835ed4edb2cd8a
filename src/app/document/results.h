#pragma once

#include "app/document/live_edge.h"
#include "workshop/workshop.h"

#include <QObject>
#include <QTimer>

#include <cstdint>
#include <functional>
#include <map>
#include <memory>
#include <string>
#include <vector>

namespace hasami {

/// What the workshop made of the document's job. Each job that it is given is another revision; while the
/// newest is computed, what is there of an older one stays in sight.
class Results : public QObject {
    Q_OBJECT
public:
    explicit Results(PictureSource pictures, QObject* parent = nullptr);
    ~Results() override;

    /// Has a job made as the next revision, the design `first` before the others.
    void make(std::shared_ptr<const Job> job, const std::string& first);
    /// The same job goes on with another design first.
    void makeFirst(std::shared_ptr<const Job> job, const std::string& first);
    /// Nothing made so far belongs to what comes.
    void forget();

    std::uint64_t revision() const { return revision_; }

    /// The newest whole result, maybe of an older revision. Never null.
    const std::shared_ptr<const Made>& made() const { return made_; }
    bool isMade() const { return made_->revision == revision_; }

    /// The newest result for one design, which may be newer than made(), and of an older recipe than the
    /// present; nullptr while there is none.
    const MadeDesign* newest(const std::string& design) const;

    /// While nothing is left of one of the design's lines or inks: the last result that had them all, of the
    /// same artwork.
    const MadeDesign* lastGood(const std::string& design) const;

    /// An estimate of the design's edge until the edge itself is made; empty where newest() holds.
    const QPainterPath& liveEdge(const Design& design) { return liveEdge_.of(design, newest(design.id)); }

    /// Calls `then` with the result of the newest revision, as soon as there is one.
    void whenMade(std::function<void(std::shared_ptr<const Made>)> then);

Q_SIGNALS:
    void changed(); ///< made(), newest() or isMade()

private:
    void take(std::shared_ptr<const Made> made);
    void takeDesign(std::uint64_t revision, MadeDesign made);
    void keepIfGood(const MadeDesign& made);

    std::uint64_t revision_ = 0;
    std::uint64_t firstRevision_ = 0; ///< of the present job: results of older ones belong to another
    std::string first_;
    std::shared_ptr<const Made> made_;
    std::map<std::string, MadeDesign> lastGood_; ///< by design
    std::map<std::string, MadeDesign> newest_;   ///< by design, those that came after made_
    LiveEdge liveEdge_;
    QTimer moreMade_; ///< so that many designs made at once are shown at once
    std::vector<std::function<void(std::shared_ptr<const Made>)>> waiting_;
    std::unique_ptr<Workshop> workshop_; // last: its thread ends before anything goes
};

} // namespace hasami
