#pragma once

#include "cli/mark_options.h"
#include "cli/options.h"
#include "cli/own_artwork_options.h"
#include "files/picture_file.h"
#include "workshop/make_all.h"

#include <filesystem>
#include <string>
#include <vector>

namespace hasami {

/// The commands of hasami-cli. Each gives the exit status 0 (done) or 1 (done, with a remark on
/// standard error that went wrong in the job); other ends are exceptions: UsageError, InputError,
/// OutputError.
inline constexpr int done = 0, doneWithFindings = 1;

/// Pictures as the store reads them. REQUIRES: the store outlives what is given back.
PictureSource sourceOf(PictureStore& pictures);

struct OutlineCommand {
    std::string artwork;
    std::vector<std::string> outputs;
    StickerArguments sticker;
    OwnArtworkArguments own;

    void addTo(CLI::App& program);
    int run() const;
};

struct NewCommand {
    std::vector<std::string> artworks;
    std::string output, medium = "roll:600", gap, sharedBox, count = "1", pack = "rows", turns = "any", price,
                        colours, split, whitePlace;
    bool isOnClearFilm = false;
    int sets = 1;
    double seconds = 10;
    StickerArguments sticker;
    OwnArtworkArguments own;
    MarkArguments marks;

    void addTo(CLI::App& program);
    int run() const;

private:
    void setPlan(Job& job) const;
    void placeWhite(Job& job) const;
    void setCopies(Design& design) const;
    bool addArtworks(Job& job, PictureStore& pictures, FontLibrary& fonts) const;
    void addDesigns(Job& job, const std::filesystem::path& artwork, PictureStore& pictures,
                    FontLibrary& fonts) const;
};

struct MakeCommand {
    std::string job, report, kinds, planned, colours;
    std::vector<std::string> prints, cuts;
    int sheet = 0; ///< from 1 on; 0: all
    double dotsPerInch = 300;
    bool withoutCutLines = false, onePerTool = false, isInInks = false;

    void addTo(CLI::App& program);
    int run() const;
};

struct SendCommand {
    std::string job, to, kinds, mediaType;
    int sheet = 0; ///< from 1 on; 0: the only one, of a print all
    int copies = 1;
    bool withoutCutLines = false, inTiles = false;

    void addTo(CLI::App& program);
    int run() const;

private:
    int print(const std::string& printer, const Job& opened, const Made& made,
              const PictureSource& pictures) const;
    int cut(const Job& opened, const Made& made) const;
};

struct InfoCommand {
    std::string file;
    bool asJson = false;

    void addTo(CLI::App& program);
    int run() const;
};

} // namespace hasami
