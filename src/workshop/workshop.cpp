#include "workshop/workshop.h"

#include "base/translation.h"

#include <utility>

namespace hasami {

Workshop::Workshop(PictureSource pictures, Tells tells)
    : pictures_(std::move(pictures)), tells_(std::move(tells)) {}

Workshop::~Workshop() {
    closing_.request_stop();
}

void Workshop::submit(std::shared_ptr<const Job> job, std::uint64_t revision, std::string first) {
    underWay_.request_stop();
    const auto make = [this, job = std::move(job), revision, first = std::move(first),
                       closing = closing_.get_token()](const std::stop_token& stop) {
        const Progress progress{first, [&](const MadeDesign& made) {
                                    if (tells_.designMade && !closing.stop_requested())
                                        tells_.designMade(revision, made);
                                }};
        return std::make_shared<const Made>(makeAll(*job, revision, pictures_, cache_, stop, progress));
    };
    const auto tell = [this, revision](Outcome<std::shared_ptr<const Made>> outcome) {
        if (outcome.value)
            return tells_.done(std::move(*outcome.value));
        if (outcome.isStopped())
            return; // a newer revision is waiting, or the workshop is closing
        Made made;
        made.revision = revision;
        made.trouble = outcome.failure;
        tells_.done(std::make_shared<const Made>(std::move(made)));
    };
    underWay_ = queue_.run(translated("The job can't be made"), make, tell);
}

} // namespace hasami
