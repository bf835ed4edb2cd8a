#include "files/printer.h"

#include "base/error.h"
#include "base/number_text.h"
#include "base/translation.h"
#include "files/print_scale.h"
#include "files/print_tiles.h"

#include <algorithm>
#include <array>
#include <chrono>
#include <cmath>
#include <cups/cups.h>
#include <memory>
#include <optional>
#include <stop_token>
#include <thread>
#include <utility>

// Internet Printing Protocol: RFC 8010 and 8011; media-col: PWG 5100.7; print-scaling: PWG 5100.13.

namespace hasami {

namespace {

constexpr int patienceToPrinter = 10'000;               // ms, to connect
constexpr std::chrono::seconds printerTimeout(20);      // for it to take or say anything
constexpr std::chrono::seconds cancelTimeout(3);        // the same when what it prints is cancelled
constexpr double lookAgainAfter = 0.2;                  // s: whether to stop
constexpr std::chrono::milliseconds restOfPrinter(200); // between two looks at a job
constexpr double sameSize = 1;                          // mm: media are named to the nearest millimetre

struct FreeMessage {
    void operator()(ipp_t* message) const { ippDelete(message); }
};
using Message = std::unique_ptr<ipp_t, FreeMessage>;

struct CloseConnection {
    void operator()(http_t* http) const { httpClose(http); }
};

/// "ipp://HOST:PORT/PATH", taken apart.
struct PrinterAddress {
    std::string uri, host, resource;
    int port = 631;
    bool isSecret = false;
};

/// In hundredths of a millimetre, as the protocol counts.
struct MediaSize {
    int width = 0, height = 0;
};

std::string textOf(ipp_t* message, const char* name) {
    ipp_attribute_t* found = message ? ippFindAttribute(message, name, IPP_TAG_ZERO) : nullptr;
    const char* text = found ? ippGetString(found, 0, nullptr) : nullptr;
    return text ? text : std::string();
}

class PrinterThere {
public:
    PrinterThere(const std::string& name, std::stop_token stop)
        : name_(name), stop_(std::move(stop)), address_(addressOf(name)) {
        int isCancelled = 0; // looked at while it connects
        const std::stop_callback onStop(stop_, [&isCancelled] { isCancelled = 1; });
        http_.reset(httpConnect2(address_.host.c_str(), address_.port, nullptr, AF_UNSPEC,
                                 address_.isSecret ? HTTP_ENCRYPTION_ALWAYS : HTTP_ENCRYPTION_IF_REQUESTED, 1,
                                 patienceToPrinter, &isCancelled));
        throwIfStopped(stop_);
        if (!http_)
            throw OutputError(sentence("There is no connection to the printer %1", name_));
        httpSetTimeout(http_.get(), lookAgainAfter, waitsOn, this);
        learn();
    }
    PrinterThere(const PrinterThere&) = delete;
    PrinterThere& operator=(const PrinterThere&) = delete;

    /// What is printed of a page, and on which medium.
    struct Fit {
        PrintPage page;
        MediaSize medium;
    };
    /// On a medium of the page's size, or the smallest that holds it; where there is none, in tiles on that
    /// which takes the fewest. Throws OutputError where that is not wanted.
    Fit fitOf(const PrintPage& page, bool inTiles) const {
        const MediaSize wanted = hundredths(page.width, page.height);
        std::optional<MediaSize> best;
        for (const Media& media : media_) {
            const auto held = media.holding(wanted);
            if (held && (!best || double(held->width) * held->height < double(best->width) * best->height))
                best = held;
        }
        if (best || media_.empty()) // which it may not say
            return {page, best.value_or(wanted)};
        if (const auto rules = inTiles ? rulesFor(page) : std::nullopt)
            return {{tiled(page.pdf, page.width, page.height, *rules), rules->width, rules->height},
                    hundredths(rules->width, rules->height)};
        throw OutputError(
            sentence("The sheet of %1 x %2 mm is larger than every medium of %3: print it in tiles, "
                     "or take a smaller medium",
                     numberText(page.width, 1), numberText(page.height, 1), name_));
    }

    /// Its number.
    int send(const PrintPage& page, const MediaSize& medium, const PrintRequest& about) {
        const Message created = ask(createJob(medium, about));
        ipp_attribute_t* number = ippFindAttribute(created.get(), "job-id", IPP_TAG_INTEGER);
        if (!number)
            throw OutputError(sentence("%1 takes no job", name_));
        const int job = ippGetInteger(number, 0);
        ipp_t* request = jobRequest(IPP_OP_SEND_DOCUMENT, job);
        ippAddString(request, IPP_TAG_OPERATION, IPP_TAG_MIMETYPE, "document-format", nullptr,
                     "application/pdf");
        ippAddBoolean(request, IPP_TAG_OPERATION, "last-document", 1);
        http_status_t status = cupsSendRequest(http_.get(), request, address_.resource.c_str(),
                                               ippLength(request) + page.pdf.size());
        constexpr std::size_t atOnce = 32'768;
        for (std::size_t sent = 0; status == HTTP_STATUS_CONTINUE && sent < page.pdf.size(); sent += atOnce) {
            if (stop_.stop_requested())
                break;
            waitFor(printerTimeout);
            status = cupsWriteRequestData(http_.get(), page.pdf.data() + sent,
                                          std::min(atOnce, page.pdf.size() - sent));
        }
        ippDelete(request);
        try {
            throwIfStopped(stop_);
            waitFor(printerTimeout);
            const Message answer(cupsGetResponse(http_.get(), address_.resource.c_str()));
            requireDone(answer.get());
        } catch (const Stopped&) {
            cancel(job);
            throw;
        }
        return job;
    }

    ipp_jstate_t stateOf(int job) {
        ipp_t* request = jobRequest(IPP_OP_GET_JOB_ATTRIBUTES, job);
        const Message answer = ask(request);
        ipp_attribute_t* state = ippFindAttribute(answer.get(), "job-state", IPP_TAG_ENUM);
        reason_ = textOf(answer.get(), "job-state-reasons");
        return state ? ipp_jstate_t(ippGetInteger(state, 0)) : IPP_JSTATE_COMPLETED;
    }

    /// Also after a stop was requested, for which it waits only shortly; whatever was asked before, its
    /// answer is not waited for.
    void cancel(int job) {
        reconnect();
        stop_ = {};
        waitFor(cancelTimeout);
        ipp_t* request = jobRequest(IPP_OP_CANCEL_JOB, job);
        ippDelete(cupsDoRequest(http_.get(), request, address_.resource.c_str()));
    }

    const std::string& reason() const { return reason_; }
    const std::vector<std::string>& mediaTypes() const { return mediaTypes_; }

private:
    static MediaSize hundredths(double width, double height) {
        return {int(std::lround(width * 100)), int(std::lround(height * 100))};
    }

    /// The medium that takes the fewest tiles, of as many the smallest. A label is no medium for tiles.
    std::optional<TileRules> rulesFor(const PrintPage& page) const {
        constexpr double leastSide = 80; // mm
        std::optional<TileRules> best;
        int fewest = 0;
        for (const Media& media : media_) {
            TileRules rules;
            rules.width = media.most.width / 100.0, rules.height = media.most.height / 100.0;
            if (std::min(rules.width, rules.height) < leastSide)
                continue;
            const TileCount count = tilesFor(page.width, page.height, rules);
            const int tiles = count.columns * count.rows;
            const bool isBetter =
                !best || tiles < fewest ||
                (tiles == fewest && rules.width * rules.height < best->width * best->height);
            if (isBetter) {
                best = rules;
                fewest = tiles;
            }
        }
        return best;
    }

    /// What a printer says of one of its media: its size, or a range of sizes that it takes.
    struct Media {
        MediaSize least, most;

        std::optional<MediaSize> holding(const MediaSize& page) const {
            const int tolerance = int(sameSize * 100);
            for (const MediaSize& turned : {page, MediaSize{page.height, page.width}})
                if (turned.width <= most.width + tolerance && turned.height <= most.height + tolerance)
                    return MediaSize{std::clamp(turned.width, least.width, most.width),
                                     std::clamp(turned.height, least.height, most.height)};
            return {};
        }
    };

    static PrinterAddress addressOf(const std::string& name) {
        PrinterAddress address;
        address.uri = name;
        if (name.find("://") == std::string::npos) {
            cups_dest_t* destination = cupsGetNamedDest(CUPS_HTTP_DEFAULT, name.c_str(), nullptr);
            const char* uri = destination ? cupsGetOption("printer-uri-supported", destination->num_options,
                                                          destination->options)
                                          : nullptr;
            address.uri = uri ? uri : "";
            cupsFreeDests(destination ? 1 : 0, destination);
            if (address.uri.empty())
                throw OutputError(sentence("There is no printer called %1", name));
        }
        std::array<char, 32> scheme{};
        std::array<char, 256> user{}, host{};
        std::array<char, 1024> resource{};
        if (httpSeparateURI(HTTP_URI_CODING_ALL, address.uri.c_str(), scheme.data(), scheme.size(),
                            user.data(), user.size(), host.data(), host.size(), &address.port,
                            resource.data(), resource.size()) < HTTP_URI_STATUS_OK)
            throw OutputError(sentence(
                "A printer is a queue's name or an address like ipp://HOST:PORT/ipp/print, not %1", name));
        address.host = host.data();
        address.resource = resource.data();
        address.isSecret = std::string(scheme.data()) == "ipps";
        return address;
    }

    void reconnect() { httpReconnect2(http_.get(), patienceToPrinter, nullptr); }

    ipp_t* requestOf(ipp_op_t operation) const {
        ipp_t* request = ippNewRequest(operation);
        ippAddString(request, IPP_TAG_OPERATION, IPP_TAG_URI, "printer-uri", nullptr, address_.uri.c_str());
        return request;
    }

    ipp_t* jobRequest(ipp_op_t operation, int job) const {
        ipp_t* request = requestOf(operation);
        ippAddInteger(request, IPP_TAG_OPERATION, IPP_TAG_INTEGER, "job-id", job);
        ippAddString(request, IPP_TAG_OPERATION, IPP_TAG_NAME, "requesting-user-name", nullptr, cupsUser());
        return request;
    }

    ipp_t* createJob(const MediaSize& medium, const PrintRequest& about) const {
        ipp_t* request = requestOf(IPP_OP_CREATE_JOB);
        ippAddString(request, IPP_TAG_OPERATION, IPP_TAG_NAME, "requesting-user-name", nullptr, cupsUser());
        ippAddString(request, IPP_TAG_OPERATION, IPP_TAG_NAME, "job-name", nullptr, about.title.c_str());
        ippAddInteger(request, IPP_TAG_JOB, IPP_TAG_INTEGER, "copies", about.copies);
        ippAddString(request, IPP_TAG_JOB, IPP_TAG_KEYWORD, "print-scaling", nullptr, "none");
        ipp_t* size = ippNew();
        ippAddInteger(size, IPP_TAG_ZERO, IPP_TAG_INTEGER, "x-dimension", medium.width);
        ippAddInteger(size, IPP_TAG_ZERO, IPP_TAG_INTEGER, "y-dimension", medium.height);
        ipp_t* media = ippNew();
        ippAddCollection(media, IPP_TAG_ZERO, "media-size", size);
        if (!about.mediaType.empty())
            ippAddString(media, IPP_TAG_ZERO, IPP_TAG_KEYWORD, "media-type", nullptr,
                         about.mediaType.c_str());
        ippAddCollection(request, IPP_TAG_JOB, "media-col", media);
        ippDelete(size);
        ippDelete(media);
        return request;
    }

    void waitFor(std::chrono::seconds timeout) { end_ = std::chrono::steady_clock::now() + timeout; }

    /// Called when the printer has said nothing for a moment.
    static int waitsOn(http_t*, void* printer) {
        const auto& own = *static_cast<const PrinterThere*>(printer);
        return !own.stop_.stop_requested() && std::chrono::steady_clock::now() < own.end_ ? 1 : 0;
    }

    /// Frees the request.
    Message ask(ipp_t* request) {
        waitFor(printerTimeout);
        Message answer(cupsDoRequest(http_.get(), request, address_.resource.c_str()));
        requireDone(answer.get());
        return answer;
    }

    void requireDone(ipp_t* answer) const {
        throwIfStopped(stop_);
        if (!answer && std::chrono::steady_clock::now() >= end_)
            throw OutputError(
                sentence("The printer %1 does not answer: check that it is on and ready", name_));
        if (!answer || ippGetStatusCode(answer) >= IPP_STATUS_ERROR_BAD_REQUEST)
            throw OutputError(sentence("The printer %1 refuses: %2", name_, cupsLastErrorString()));
    }

    /// Its media, and whether it takes PDF.
    void learn() {
        ipp_t* request = requestOf(IPP_OP_GET_PRINTER_ATTRIBUTES);
        constexpr std::array wanted{"media-size-supported", "media-type-supported",
                                    "document-format-supported"};
        ippAddStrings(request, IPP_TAG_OPERATION, IPP_TAG_KEYWORD, "requested-attributes", int(wanted.size()),
                      nullptr, wanted.data());
        const Message answer = ask(request);
        if (ipp_attribute_t* formats =
                ippFindAttribute(answer.get(), "document-format-supported", IPP_TAG_MIMETYPE);
            formats && !ippContainsString(formats, "application/pdf"))
            throw OutputError(
                sentence("The printer %1 takes no PDF: write the print as a file for its software", name_));
        ipp_attribute_t* types = ippFindAttribute(answer.get(), "media-type-supported", IPP_TAG_ZERO);
        for (int i = 0; types && i < ippGetCount(types); ++i)
            if (const char* type = ippGetString(types, i, nullptr))
                mediaTypes_.emplace_back(type);
        ipp_attribute_t* sizes =
            ippFindAttribute(answer.get(), "media-size-supported", IPP_TAG_BEGIN_COLLECTION);
        for (int i = 0; sizes && i < ippGetCount(sizes); ++i) {
            ipp_t* size = ippGetCollection(sizes, i);
            const auto across = rangeOf(size, "x-dimension"), along = rangeOf(size, "y-dimension");
            media_.push_back({{across.first, along.first}, {across.second, along.second}});
        }
    }

    static std::pair<int, int> rangeOf(ipp_t* size, const char* name) {
        ipp_attribute_t* found = ippFindAttribute(size, name, IPP_TAG_ZERO);
        if (!found)
            return {0, 0};
        if (ippGetValueTag(found) != IPP_TAG_RANGE)
            return {ippGetInteger(found, 0), ippGetInteger(found, 0)};
        int most = 0;
        const int least = ippGetRange(found, 0, &most);
        return {least, most};
    }

    std::string name_, reason_;
    std::stop_token stop_;
    std::chrono::steady_clock::time_point end_; ///< of what is waited for
    PrinterAddress address_;
    std::unique_ptr<http_t, CloseConnection> http_;
    std::vector<Media> media_;
    std::vector<std::string> mediaTypes_;
};

/// Until the printer has done with a job; where it is stopped, the job is cancelled.
void await(PrinterThere& printer, const std::string& name, int job, std::size_t page, const TellPrint& tell,
           const std::stop_token& stop) {
    for (;;) {
        ipp_jstate_t state = IPP_JSTATE_PENDING;
        try {
            state = printer.stateOf(job);
        } catch (const Stopped&) {
            printer.cancel(job);
            throw;
        }
        if (state == IPP_JSTATE_COMPLETED)
            return;
        if (state == IPP_JSTATE_ABORTED || state == IPP_JSTATE_CANCELED)
            throw OutputError(sentence("The printer %1 gave the job up: %2", name, printer.reason()));
        if (stop.stop_requested()) {
            printer.cancel(job);
            throw Stopped();
        }
        if (tell)
            tell({state == IPP_JSTATE_PROCESSING ? PrintProgress::State::printing
                                                 : PrintProgress::State::waiting,
                  page});
        std::this_thread::sleep_for(restOfPrinter);
    }
}

} // namespace

std::vector<std::string> printersKnown() {
    cups_dest_t* all = nullptr;
    const int count = cupsGetDests2(CUPS_HTTP_DEFAULT, &all);
    std::vector<std::string> names;
    for (int i = 0; i < count; ++i) {
        const std::string name = all[i].name;
        if (all[i].is_default)
            names.insert(names.begin(), name);
        else
            names.push_back(name);
    }
    cupsFreeDests(count, all);
    return names;
}

std::vector<std::string> mediaTypesOf(const std::string& printer, const std::stop_token& stop) {
    return PrinterThere(printer, stop).mediaTypes();
}

void printTo(const std::string& printer, const PrintRequest& request, const TellPrint& tell,
             const std::stop_token& stop) {
    PrinterThere there(printer, stop);
    std::vector<PrinterThere::Fit> fits;
    if (!request.mediaType.empty() &&
        std::ranges::find(there.mediaTypes(), request.mediaType) == there.mediaTypes().end())
        throw OutputError(
            sentence("The printer %1 has no medium of the type %2", printer, request.mediaType));
    for (const PrintPage& page : request.pages) {
        fits.push_back(there.fitOf(page, request.inTiles));
        fits.back().page.pdf = compensated(fits.back().page.pdf, request.scale);
    }
    for (std::size_t i = 0; i < request.pages.size(); ++i) {
        throwIfStopped(stop);
        if (tell)
            tell({PrintProgress::State::sending, i});
        await(there, printer, there.send(fits[i].page, fits[i].medium, request), i, tell, stop);
    }
}

} // namespace hasami
