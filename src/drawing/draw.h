#pragma once

#include "artwork/artwork.h"
#include "lettering/lay_lettering.h"

#include <functional>
#include <memory>

namespace hasami {

/// Gives an asset of the job by its SHA-256; nullptr where there is none.
using AssetSource = std::function<std::shared_ptr<const Asset>(const std::string& sha256)>;

/// Draws own artwork: its outlines and how they are filled. Lettering whose font can't be found keeps the
/// outlines that it has. Throws InputError with a sentence: nothing to be seen, a font or a picture is
/// missing, the code can't hold its text.
Drawing drawingOf(const OwnArtwork& own, const FontSource& fonts, const AssetSource& assets);

/// What an item needs of the job's files beside its own: fonts, pictures inside it.
std::vector<std::string> assetsOf(const Item& item);

/// A new item, its top left at 0, 0. Throws InputError.
Item newItem(OwnArtwork own, const std::string& name, const FontSource& fonts, const AssetSource& assets);

/// What an item is called after what it says: in one line, not too long.
std::string nameAfterText(const std::string& text);

/// The item with other content. The name of lettering that was called after its text follows it. What it is
/// stretched by stays, and its anchor (Drawing::anchor) where it is in the design. Throws InputError.
Item withContent(const Item& item, OwnArtwork own, const FontSource& fonts, const AssetSource& assets);

/// The item after it was scaled, with sizes in its content to match: a figure has its own, a code and
/// lettering that were scaled evenly too. What lettering was stretched by one way alone stays.
Item settled(const Item& item, const FontSource& fonts, const AssetSource& assets);

/// Where the layout's origin is in the drawing: of lettering that was laid out for it.
Point layoutOrigin(const Lettering& lettering, const LaidLettering& laid, const Drawing& drawing);

/// Draws an item as it was read from a file: its place stays. Throws InputError.
void drawAsRead(Item& item, const FontSource& fonts, const AssetSource& assets);

} // namespace hasami
