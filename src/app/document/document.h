#pragma once

#include "app/document/background.h"
#include "app/document/job_files.h"
#include "app/document/picture_cache.h"
#include "app/document/results.h"
#include "files/font_library.h"
#include "job/history.h"

#include <QObject>
#include <QString>
#include <QStringList>

#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <stop_token>
#include <vector>

namespace hasami {

/// What the window works on: a job with its history and selection, what was made of it, and its files. The
/// only place where the job changes.
class Document : public QObject {
    Q_OBJECT
public:
    explicit Document(QObject* parent = nullptr);
    ~Document() override;

    /// Valid until the next change.
    const Job& job() const { return *history_.job(); }
    /// The same to be kept: it never changes, a change makes another one.
    const std::shared_ptr<const Job>& sharedJob() const { return history_.job(); }
    /// The same with the name of its file, and the day, which sheets and files say.
    std::shared_ptr<const Job> namedJob() const;
    Background& background() { return background_; }
    PictureCache& pictures() { return pictures_; }
    FontLibrary& fonts() { return *fonts_; }
    const std::shared_ptr<FontLibrary>& sharedFonts() const { return fonts_; } ///< for work in the background

    /// See Results.
    const std::shared_ptr<const Made>& made() const { return results_.made(); }
    bool isMade() const { return results_.isMade(); }
    const MadeDesign* newest(const std::string& design) const { return results_.newest(design); }
    const MadeDesign* lastGood(const std::string& design) const { return results_.lastGood(design); }
    const QPainterPath& liveEdge(const Design& design) { return results_.liveEdge(design); }
    void whenMade(std::function<void(std::shared_ptr<const Made>)> then) {
        results_.whenMade(std::move(then));
    }

    /// Changes the job, as one entry in the undo history with that label. Changes in a row with the same
    /// `run` (a drag, a run of key presses) are one entry, until endRun; none where they end as they began,
    /// and what could be redone before can be then.
    void change(const QString& label, const std::function<void(Job&)>& edit, const QString& run = {});
    void endRun();
    /// Takes back what the run that is under way changed, as if it had not begun.
    void cancelRun();

    QString undoLabel() const { return QString::fromStdString(history_.undoLabel()); }
    QString redoLabel() const { return QString::fromStdString(history_.redoLabel()); }
    void undo();
    void redo();

    /// The selected design's id; empty if there is none.
    const std::string& selected() const { return history_.selected(); }
    const Design* selectedDesign() const { return job().find(selected()); }
    void select(const std::string& design);

    /// Reads artworks in the background and adds a design for each that can be used; reports the others.
    void addArtworks(const QStringList& paths);
    /// The same for one that is no file: `bytes` gives what a file of it would hold, called in the
    /// background.
    void addArtwork(const QString& name, const std::function<QByteArray()>& bytes);
    void deleteDesign(const std::string& id);
    void duplicateDesign(const std::string& id);

    /// Puts a design before the one at `place` of the shelf (or last).
    void moveDesign(const std::string& id, std::size_t place);

    /// Reads a picture in the background and gives it to the design in place of one of its items; width and
    /// recipe stay.
    void replaceArtwork(const std::string& id, std::size_t item, const QString& path);

    /// Another page of the item's file, counted from 1; the recipe stays.
    void showPage(const std::string& id, std::size_t item, int page);

    /// Reads artworks in the background and lays them in front of what the design shows.
    void layOn(const std::string& id, const QStringList& paths);

    /// Reads a picture in the background and shows it inside own artwork of the design, as large as covers
    /// it.
    void putInside(const std::string& id, std::size_t item, const QString& path);

    /// Reads a file again, in the background, for every item that shows what it held before; places and
    /// recipes stay.
    void takeNewer(const std::string& oldSha256, const QString& path);

    /// One artwork to be read in the background.
    struct ArtworkSource {
        QString name;
        QString path; ///< empty if it is no file
        std::function<NewPicture(const std::stop_token&)> open;
    };

    /// A recipe to be applied to other designs, with the name of the design it came from.
    void copyRecipe(const std::string& id);
    bool hasCopiedRecipe() const { return copiedRecipe_.has_value(); }

    /// Which steps of the copied recipe are applied.
    enum class RecipePart { whole, edge, cutLines };
    void applyRecipe(const std::vector<std::string>& ids, RecipePart part);

    /// See JobFiles.
    std::uint64_t jobNumber() const { return files_.jobNumber(); }
    bool isModified() const { return !files_.isSaved(sharedJob()); }
    const QString& path() const { return files_.path(); }
    /// The file's name without its ending; before it is saved, that of the copied job or of the first design.
    QString title() const;

    /// Asks whether to give up what is not saved, and calls what it is given if so. Set by the window;
    /// without it, nothing is asked.
    std::function<void(const std::function<void()>& goOn)> askBeforeLeaving;

    /// The present time, which sheets, runs and files say: asked for here alone.
    std::function<QDateTime()> clock = [] { return QDateTime::currentDateTime(); };

    void startNew();
    void open(const QString& path);

    /// Goes on with a job that was not saved, of the path given (or none).
    void restore(std::shared_ptr<const Job> job, const QString& path, const QDateTime& keptAt = {});

    /// A job that was read, and the path that it belongs to (or none).
    struct ReadJob {
        std::shared_ptr<const Job> job;
        QString path;
        QDateTime keptAt = {}; ///< of a recovered copy
    };
    /// Reads a job in the background, `what` ("bee.hasami can't be opened") being the sentence's begin where
    /// that fails. `take` is called with it; it is stopped where another one was asked for meanwhile. Where
    /// the present job was changed meanwhile, the user is asked first whether to give it up.
    void read(const QString& text, const QString& what,
              const std::function<ReadJob(const std::stop_token&)>& readJob,
              const std::function<void(const Outcome<ReadJob>&)>& take);

    /// Opens a job to be saved under a name of its own; until then it goes by that name, where there is one.
    void openCopy(const QString& path, const QString& name = {});

    /// Saves the job as it is now, in the background; `then` is called with whether it worked. A failure is
    /// reported by `refused` too. Saves are done in the order in which they were requested.
    void save(const QString& path, std::function<void(bool)> then = {});

    /// Where the job as it is now is just being saved: calls `then` when that is done, as `save` does. Else
    /// false.
    /// See JobFiles::conflict.
    QString fileConflict() const { return files_.conflict(); }
    bool joinSave(const std::function<void(bool)>& then) { return files_.joinSave(sharedJob(), then); }

    /// Files being read or written.
    using FileWork = JobFiles::Work;
    const std::vector<std::shared_ptr<FileWork>>& filesUnderWay() const { return files_.underWay(); }

    /// Gives up what is being read: nothing of it comes into the job.
    void stopReading() { files_.stopReading(); }

Q_SIGNALS:
    /// Before the job becomes the next one, by an edit; by undo or redo; and before another job takes its
    /// place. Who has something to put into it does so now.
    void aboutToChange(const Job& next);
    void aboutToGoBack();
    void aboutToReset();
    void jobChanged();  ///< the job, its path, or whether it is saved
    void madeChanged(); ///< made() or isMade()
    void selectionChanged();
    void filesUnderWayChanged();
    void artworkRead(const QString& path, const std::string& sha256); ///< a file, into the job
    void refused(const QString& sentence);                            ///< a file could not be used or written

private:
    /// After the history went to another job: has it made, and reports it.
    void showJob(const std::string& selectedBefore);
    void goBack(bool (History::*step)());
    void reset(std::shared_ptr<const Job> job, const QString& path, bool saved,
               std::optional<QDateTime> asOf = {}, const QString& copyName = {});
    void load(const QString& path, const QString& keptPath, const QString& copyName = {});
    void replaceWith(const std::string& id, std::size_t item, const QString& label,
                     const ArtworkSource& source);
    void addAll(const QString& what, const std::vector<ArtworkSource>& sources);
    /// What is done to the job with artworks that were read: the change's label (empty: nothing), and the
    /// design to be selected.
    struct Taken {
        QString label;
        std::string selected;
    };
    using TakeArtworks = std::function<Taken(Job&, const std::vector<NewPicture>&, QStringList& refusals)>;
    void readArtworks(const QString& what, const std::vector<ArtworkSource>& sources,
                      const TakeArtworks& take);
    /// "bee.png" or "12 artworks".
    static QString inWords(const QStringList& paths);

    Background background_; // first: what is under way in it ends after all else has gone
    History history_;
    QString copyName_; ///< of a copy that is not saved yet
    std::optional<Recipe> copiedRecipe_;
    QString copiedFrom_;
    std::uint64_t opening_ = 0; ///< the newest request to open: older ones are dropped
    PictureCache pictures_;
    std::shared_ptr<FontLibrary> fonts_ =
        std::make_shared<FontLibrary>(); // shared with work that may outlive the window
    JobFiles files_;
    Results results_; // last: its thread ends before anything goes
};

} // namespace hasami
