#pragma once

#include "artwork/picture.h"
#include "files/pdf_page.h"
#include "files/qpdf.h"
#include "geometry/path.h"
#include "profile/profile.h"

#include <QCryptographicHash>

#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace hasami {

/// Content streams: operators with numbers to six decimals.
class PdfContent {
public:
    PdfContent& matrix(const Affine& by);
    PdfContent& op(std::string_view text); ///< operators and operands as they are
    PdfContent& number(double value);
    PdfContent& curve(const Curve& curve); ///< path only; stroke or fill it next
    PdfContent& run(const Subpath& run);   ///< the same, open where the run is
    const std::string& text() const { return text_; }

private:
    PdfContent& point(Point p);
    std::string text_;
};

/// How many seventy-seconds of an inch a page's unit has, so that a page of that longest side, mm, has at
/// most the 14,400 units that PDF allows: 1 for all but long rolls.
double userUnitFor(double longestSide);

/// A PDF 1.6 document in the making: layers, spot colours, pictures and forms, each written once and used at
/// will.
class PdfDocument {
public:
    /// `about`: a sentence on what it holds, in its metadata; may be empty.
    explicit PdfDocument(const std::string& title, const std::string& about = {});

    /// The colours of the printer that the file is meant for, by its ICC profile: the output intent. Red,
    /// green and blue without a profile are the standard's from then on.
    struct OutputColours {
        std::string name, profile;
        int channels = 4;
        std::string dayOfX4;   ///< "2026-11-29" of a file that says it is a PDF/X-4 (ISO 15930-7); else empty
        bool ownsInks = false; ///< CMYK without a profile is the printer's own
    };
    void setOutputColours(const OutputColours& colours);

    /// An optional content group; layers are listed in the order they are made in.
    QPDFObjectHandle addLayer(const std::string& name);

    /// A Separation colour space that is shown as greys: white where there is none of it.
    QPDFObjectHandle addSpotInGrey(const std::string& spot);

    /// A Separation colour space.
    QPDFObjectHandle addSpotColour(const SpotColour& spot);

    /// Graphics state for strokes that print over what lies beneath.
    QPDFObjectHandle addOverprint();

    /// Graphics state for special inks over the colours: on their own plate, ink multiplied with none is the
    /// ink; on the others, colours multiplied with no ink stay as they are (ISO 32000-1, 11.7.4.2); and who
    /// shows spot colours by their tints lets the colours shine through. No overprint beside it: with that
    /// the colours below would be multiplied with themselves.
    QPDFObjectHandle addMultiply();

    /// How much of a spot colour each pixel has, 0 to 255.
    QPDFObjectHandle addSpotImage(const Grid<std::uint8_t>& amounts, const QPDFObjectHandle& spot);

    /// The picture's colours as they are, its coverage as a soft mask where it has any.
    /// `shown`: 0 where it is not drawn; none: all of it is.
    QPDFObjectHandle addPicture(const Picture& picture, const Grid<std::uint8_t>* shown = nullptr);
    /// The same; the picture is kept, where its colours need no copy then.
    QPDFObjectHandle addPicture(const std::shared_ptr<const Picture>& picture);

    /// A JPEG file's picture, its bytes as they are. REQUIRES: the picture was read from these bytes.
    QPDFObjectHandle addJpeg(const Picture& picture, std::span<const std::byte> bytes);

    /// See newShading.
    QPDFObjectHandle addShading(const Gradient& gradient, Point from, Point to, double radius);

    /// A page of another file as a form of that page's space; its layers are shown as they were there.
    struct PageForm {
        QPDFObjectHandle form;
        Affine toUnitSquare; ///< from the form's space to the page's unit square, y down
    };
    PageForm addPageOf(std::unique_ptr<PdfPage> page);

    /// A form whose space is the caller's; resources by kind and name, as {"/XObject", "/Picture1", …}.
    struct Resource {
        std::string kind, name;
        QPDFObjectHandle object;
    };
    QPDFObjectHandle addForm(const Box& box, const PdfContent& content,
                             const std::vector<Resource>& resources);

    /// A page of the size, in mm, with its origin at the bottom left. `trim` in the same millimetres. The
    /// content starts in millimetres too. PDF's limit of 5.08 m is passed by a larger user unit.
    void addPage(const Box& media, const Box& trim, const PdfContent& content,
                 const std::vector<Resource>& resources);

    /// The whole file. The same document gives the same bytes.
    std::string bytes();

private:
    QPDFObjectHandle addSeparation(const std::string& spot, const char* shownIn, const QPDFObjectHandle& none,
                                   const QPDFObjectHandle& all);
    QPDFObjectHandle resourceDictionary(const std::vector<Resource>& resources);
    QPDFObjectHandle colourSpaceOf(const Picture& picture, int channels);
    QPDFObjectHandle addImage(int width, int height, const QPDFObjectHandle& colourSpace,
                              const std::shared_ptr<Buffer>& data);

    QPDFObjectHandle addPicture(const Picture& picture, const std::shared_ptr<Buffer>& samples);
    QPDFObjectHandle addStencil(const Grid<std::uint8_t>& shown);
    QPDFObjectHandle iccBased(const std::string& profile, int channels);
    void addMetadata();
    void addDefaultSpaces();
    void dropSpacesOfIntent();

    QPDF pdf_;
    std::string title_, about_;
    std::string dayOfX4_, intent_; ///< of a PDF/X-4: its day, and the output intent's profile
    QCryptographicHash content_{QCryptographicHash::Sha1}; ///< of what is drawn: the document's id
    QPDFObjectHandle info_;
    std::vector<std::pair<std::string, QPDFObjectHandle>> defaultSpaces_; ///< "/DefaultRGB" and its space
    std::vector<QPDFObjectHandle> layers_;
    std::vector<PdfPage::Layer> layersOfPages_;
    std::vector<std::unique_ptr<PdfPage>> pages_; // read from until the file is written
};

} // namespace hasami
