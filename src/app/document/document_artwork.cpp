#include "app/document/document.h"
#include "app/words/words.h"
#include "base/error.h"
#include "files/file_name.h"
#include "files/read_file.h"

#include <QFileInfo>

namespace hasami {

namespace {

struct ReadArtworks {
    std::vector<NewPicture> pictures;
    QStringList paths; ///< of each
    QStringList refusals;
};

ReadArtworks readAll(const std::vector<Document::ArtworkSource>& sources, Document::FileWork& work,
                     const std::stop_token& stop) {
    ReadArtworks read;
    for (const Document::ArtworkSource& source : sources) {
        const auto picture = outcomeOf(sentence("%1 can't be read", source.name.toStdString()),
                                       [&] { return source.open(stop); });
        throwIfStopped(stop);
        if (picture.value) {
            read.pictures.push_back(*picture.value);
            read.paths << source.path;
        } else {
            read.refusals << QString::fromStdString(picture.failure);
        }
        ++work.done;
    }
    return read;
}

std::vector<Document::ArtworkSource> filesOf(const QStringList& paths,
                                             const std::shared_ptr<PictureStore>& store) {
    std::vector<Document::ArtworkSource> sources;
    for (const QString& path : paths)
        sources.push_back({QFileInfo(path).fileName(), path, [path, store](const std::stop_token& stop) {
                               return openArtwork(toPath(path), *store, 1, stop);
                           }});
    return sources;
}

/// Puts a file's picture in place of every item that shows the older bytes.
/// Shows a picture inside own artwork, scaled to cover it.
PictureFill fillWith(Job& job, const NewPicture& picture) {
    const Point size = picture.naturalSize();
    PictureFill fill;
    fill.file = {picture.asset->sha256, picture.page};
    fill.isVector = picture.vector.has_value();
    fill.place.width = size.x;
    fill.place.height = size.y;
    job.assets.edit()[picture.asset->sha256] = picture.asset;
    return fill;
}

const PictureFill* pictureFillOf(const Item& item) {
    return item.own() ? std::get_if<PictureFill>(&item.own()->fill) : nullptr;
}

Item withFill(const Item& item, const PictureFill& fill, const Job& job, FontLibrary& fonts) {
    OwnArtwork own = *item.own();
    own.fill = fill;
    return withContent(item, std::move(own), fonts.sourceFor(job), assetSourceOf(*job.assets));
}

/// The newer picture where the older one was placed, as wide.
PictureFill inPlaceOf(const PictureFill& old, PictureFill newer) {
    const double height = old.place.width * newer.place.height / newer.place.width;
    newer.place.at = old.place.at;
    newer.place.turn = old.place.turn;
    newer.place.width = old.place.width;
    newer.place.height = height;
    newer.isFitted = old.isFitted;
    return newer;
}

int replaceAsset(Job& job, const std::string& old, const std::map<int, NewPicture>& byPage,
                 FontLibrary& fonts) {
    int count = 0;
    const SharedElements<Design> designs = job.designs;
    for (const Design& design : designs)
        for (std::size_t i = 0; i < design.artwork.items.size(); ++i) {
            const Item& item = design.artwork.items[i];
            const PictureFill* inside = pictureFillOf(item);
            const FileContent* shown = inside ? &inside->file : item.file();
            const auto page = shown && shown->asset == old ? byPage.find(shown->page) : byPage.end();
            if (page == byPage.end())
                continue;
            if (inside)
                job.find(design.id)->artwork.items[i] =
                    withFill(item, inPlaceOf(*inside, fillWith(job, page->second)), job, fonts);
            else
                replaceArtwork(job, design.id, i, page->second);
            ++count;
        }
    return count;
}

QString toQt(const std::string& text) {
    return QString::fromStdString(text);
}

} // namespace

void Document::readArtworks(const QString& what, const std::vector<ArtworkSource>& sources,
                            const TakeArtworks& take) {
    const auto work = files_.begin(tr("Reading %1").arg(what), true, int(sources.size()));
    const auto put = [this, work, take, number = jobNumber()](const Outcome<ReadArtworks>& outcome) {
        if (!files_.end(work) || number != jobNumber())
            return;
        if (!outcome.value) {
            if (!outcome.failure.empty())
                Q_EMIT refused(toQt(outcome.failure));
            return;
        }
        endRun();
        const ReadArtworks& read = *outcome.value;
        QStringList refusals = read.refusals;
        Job changed = job();
        const Taken taken = take(changed, read.pictures, refusals);
        if (!taken.label.isEmpty())
            change(taken.label, [&](Job& job) { job = changed; });
        select(taken.selected);
        for (std::size_t i = 0; i < read.pictures.size(); ++i)
            if (const QString& path = read.paths[qsizetype(i)]; !path.isEmpty())
                Q_EMIT artworkRead(path, read.pictures[i].asset->sha256);
        if (!refusals.isEmpty())
            Q_EMIT refused(refusals.join("\n"));
    };
    work->stop = runInBackground(
        background_.reading, this, tr("%1 can't be read").arg(what),
        [sources, work](const std::stop_token& stop) { return readAll(sources, *work, stop); }, put);
}

void Document::addAll(const QString& what, const std::vector<ArtworkSource>& sources) {
    readArtworks(what, sources, [](Job& job, const std::vector<NewPicture>& pictures, QStringList& refusals) {
        QStringList names;
        Taken taken;
        for (const NewPicture& picture : pictures) {
            try {
                const Design& design = addDesign(job, picture);
                names << toQt(design.name);
                taken.selected = design.id;
            } catch (const InputError& error) {
                refusals << error.what();
            }
        }
        if (!names.isEmpty())
            taken.label = names.size() == 1
                              ? tr("Add %1").arg(names.front())
                              : counted(std::size_t(names.size()), "Add %1 design", "Add %1 designs");
        return taken;
    });
}

void Document::addArtworks(const QStringList& paths) {
    addAll(inWords(paths), filesOf(paths, pictures_.store()));
}

void Document::addArtwork(const QString& name, const std::function<QByteArray()>& bytes) {
    addAll(name, {{name, {}, [name, bytes, store = pictures_.store()](const std::stop_token& stop) {
                       const QByteArray all = bytes();
                       const auto* first = reinterpret_cast<const std::byte*>(all.constData());
                       Asset asset{{}, name.toStdString(), {first, first + all.size()}};
                       asset.sha256 = sha256Of(asset.bytes);
                       return openPage(std::make_shared<const Asset>(std::move(asset)), *store, 1, stop);
                   }}});
}

void Document::layOn(const std::string& id, const QStringList& paths) {
    readArtworks(inWords(paths), filesOf(paths, pictures_.store()),
                 [id](Job& job, const std::vector<NewPicture>& pictures, QStringList& refusals) {
                     QStringList names;
                     if (job.find(id))
                         for (const NewPicture& picture : pictures) {
                             try {
                                 addItem(job, id, picture);
                                 names << toQt(picture.asset->name);
                             } catch (const InputError& error) {
                                 refusals << error.what();
                             }
                         }
                     if (names.isEmpty())
                         return Taken{};
                     return Taken{tr("Add %1 to %2").arg(inWords(names), toQt(job.find(id)->name)), id};
                 });
}

void Document::putInside(const std::string& id, std::size_t number, const QString& path) {
    readArtworks(
        inWords({path}), filesOf({path}, pictures_.store()),
        [this, id, number](Job& job, const std::vector<NewPicture>& pictures, QStringList& refusals) {
            Design* design = job.find(id);
            if (!design || number >= design->artwork.items.size() || pictures.empty() ||
                !design->artwork.items[number].own())
                return Taken{};
            const NewPicture& picture = pictures.front();
            Item& item = design->artwork.items[number];
            try {
                item = withFill(item, fillWith(job, picture), job, *fonts_);
            } catch (const InputError& error) {
                refusals << error.what();
                return Taken{};
            }
            return Taken{tr("Show %1 inside %2").arg(toQt(picture.asset->name), toQt(item.name)), id};
        });
}

void Document::replaceWith(const std::string& id, std::size_t item, const QString& label,
                           const ArtworkSource& source) {
    readArtworks(source.name, {source},
                 [id, item, label](Job& job, const std::vector<NewPicture>& pictures, QStringList& refusals) {
                     const Design* design = job.find(id);
                     if (pictures.empty() || !design || item >= design->artwork.items.size())
                         return Taken{};
                     try {
                         hasami::replaceArtwork(job, id, item, pictures.front());
                     } catch (const InputError& error) {
                         refusals << error.what();
                         return Taken{};
                     }
                     return Taken{label.arg(toQt(design->name)), id};
                 });
}

void Document::replaceArtwork(const std::string& id, std::size_t item, const QString& path) {
    replaceWith(id, item, tr("Replace artwork of %1"), filesOf({path}, pictures_.store()).front());
}

void Document::showPage(const std::string& id, std::size_t item, int page) {
    const Design* design = job().find(id);
    if (!design || item >= design->artwork.items.size() || !design->artwork.items[item].file() ||
        design->artwork.items[item].page() == page)
        return;
    const auto asset = assetOf(job(), design->artwork.items[item]);
    const auto showPageOf = [&](const QString& name) { return tr("Page %1 of %2").arg(page).arg(name); };
    replaceWith(id, item, showPageOf("%1"),
                {showPageOf(toQt(asset->name)),
                 {},
                 [store = pictures_.store(), asset, page](const std::stop_token& stop) {
                     return openPage(asset, *store, page, stop);
                 }});
}

void Document::takeNewer(const std::string& old, const QString& path) {
    std::set<int> pages;
    for (const Design& design : job().designs)
        for (const Item& item : design.artwork.items)
            if (const PictureFill* inside = pictureFillOf(item))
                pages.insert(inside->file.asset == old ? inside->file.page : 0);
            else if (item.source() == old)
                pages.insert(item.page());
    pages.erase(0);
    std::vector<ArtworkSource> sources;
    for (const int page : pages)
        sources.push_back({QFileInfo(path).fileName(), path,
                           [store = pictures_.store(), path, page](const std::stop_token& stop) {
                               return openArtwork(toPath(path), *store, page, stop);
                           }});
    readArtworks(QFileInfo(path).fileName(), sources,
                 [this, old, path](Job& job, const std::vector<NewPicture>& pictures, QStringList& refusals) {
                     std::map<int, NewPicture> byPage;
                     for (const NewPicture& picture : pictures)
                         byPage[picture.page] = picture;
                     try {
                         if (replaceAsset(job, old, byPage, *fonts_) > 0)
                             return Taken{tr("Take the new %1").arg(QFileInfo(path).fileName()), {}};
                     } catch (const InputError& error) {
                         refusals << error.what();
                     }
                     return Taken{};
                 });
}

} // namespace hasami
