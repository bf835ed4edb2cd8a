#include "app/document.h"
#include "app/work_aside.h"
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

/// Stops between two when asked; what was read is then not wanted.
ReadArtworks readAll(const std::vector<Document::ArtworkSource>& sources, Document::FileWork& work) {
    ReadArtworks read;
    for (const Document::ArtworkSource& source : sources) {
        if (work.stop.stop_requested())
            break;
        try {
            read.pictures.push_back(source.open());
            read.paths << source.path;
        } catch (const InputError& error) {
            read.refusals << QString::fromStdString(error.what());
        } catch (const std::bad_alloc&) {
            read.refusals << source.name + " takes more memory than there is";
        }
        ++work.done;
    }
    return read;
}

std::vector<Document::ArtworkSource> filesOf(const QStringList& paths,
                                             const std::shared_ptr<PictureStore>& store) {
    std::vector<Document::ArtworkSource> sources;
    for (const QString& path : paths)
        sources.push_back(
            {QFileInfo(path).fileName(), path, [path, store] { return openArtwork(toPath(path), *store); }});
    return sources;
}

/// Puts a file's picture in place of every item that shows the older bytes.
int replaceAsset(Job& job, const std::string& old, const std::map<int, NewPicture>& byPage) {
    int count = 0;
    for (Design& design : job.designs)
        for (std::size_t i = 0; i < design.artwork.items.size(); ++i) {
            const Item& item = design.artwork.items[i];
            const auto page = byPage.find(item.page);
            if (item.asset != old || page == byPage.end())
                continue;
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
    const auto work = beginFiles("Reading " + what, true, int(sources.size()));
    workAside(
        this, [sources, work] { return readAll(sources, *work); },
        [this, work, take, number = jobNumber_](const ReadArtworks& read) {
            if (!endFiles(work) || number != jobNumber_)
                return;
            endRun();
            QStringList refusals = read.refusals;
            Job changed = job_;
            const Taken taken = take(changed, read.pictures, refusals);
            if (!taken.label.isEmpty())
                change(taken.label, [&](Job& job) { job = changed; });
            select(taken.selected);
            for (std::size_t i = 0; i < read.pictures.size(); ++i)
                if (const QString& path = read.paths[qsizetype(i)]; !path.isEmpty())
                    Q_EMIT artworkRead(path, read.pictures[i].asset->sha256);
            if (!refusals.isEmpty())
                Q_EMIT refused(refusals.join("\n"));
        });
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
            taken.label =
                names.size() == 1 ? "Add " + names.front() : QString("Add %1 designs").arg(names.size());
        return taken;
    });
}

void Document::addArtworks(const QStringList& paths) {
    addAll(inWords(paths), filesOf(paths, pictures_.store()));
}

void Document::addArtwork(const QString& name, const std::function<QByteArray()>& bytes) {
    addAll(name, {{name, {}, [name, bytes, store = pictures_.store()] {
                       const QByteArray all = bytes();
                       const auto* first = reinterpret_cast<const std::byte*>(all.constData());
                       Asset asset{{}, name.toStdString(), {first, first + all.size()}};
                       asset.sha256 = sha256Of(asset.bytes);
                       return openPage(std::make_shared<const Asset>(std::move(asset)), *store, 1);
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
                     return Taken{"Add " + inWords(names) + " to " + toQt(job.find(id)->name), id};
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
                     return Taken{label + toQt(design->name), id};
                 });
}

void Document::replaceArtwork(const std::string& id, std::size_t item, const QString& path) {
    replaceWith(id, item, "Replace artwork of ", filesOf({path}, pictures_.store()).front());
}

void Document::showPage(const std::string& id, std::size_t item, int page) {
    const Design* design = job_.find(id);
    if (!design || item >= design->artwork.items.size() || design->artwork.items[item].page == page)
        return;
    const auto asset = job_.assets.at(design->artwork.items[item].asset);
    const QString what = QString("page %1 of ").arg(page);
    replaceWith(id, item, "Show " + what,
                {what + toQt(asset->name), {}, [store = pictures_.store(), asset, page] {
                     return openPage(asset, *store, page);
                 }});
}

void Document::takeNewer(const std::string& old, const QString& path) {
    std::set<int> pages;
    for (const Design& design : job_.designs)
        for (const Item& item : design.artwork.items)
            if (item.asset == old)
                pages.insert(item.page);
    std::vector<ArtworkSource> sources;
    for (const int page : pages)
        sources.push_back({QFileInfo(path).fileName(), path, [store = pictures_.store(), path, page] {
                               return openArtwork(toPath(path), *store, page);
                           }});
    readArtworks(QFileInfo(path).fileName(), sources,
                 [old, path](Job& job, const std::vector<NewPicture>& pictures, QStringList& refusals) {
                     std::map<int, NewPicture> byPage;
                     for (const NewPicture& picture : pictures)
                         byPage[picture.page] = picture;
                     try {
                         if (replaceAsset(job, old, byPage) > 0)
                             return Taken{"Take the new " + QFileInfo(path).fileName(), {}};
                     } catch (const InputError& error) {
                         refusals << error.what();
                     }
                     return Taken{};
                 });
}

} // namespace hasami
