#pragma once

#include "profile/profile.h"

#include <functional>
#include <stop_token>
#include <string>
#include <vector>

namespace hasami {

/// One page for a printer, exact in size.
struct PrintPage {
    std::string pdf;
    double width = 0, height = 0; ///< mm
};

struct PrintRequest {
    std::string title; ///< of the job, as queues show it
    std::vector<PrintPage> pages;
    int copies = 1;
    PrintScale scale = {};      ///< of the printer, which is compensated for
    std::string mediaType = {}; ///< one of mediaTypesOf; empty: as the printer is set
    bool inTiles = false;       ///< pages that are larger than every medium; else they are refused
};

/// How far a printer is with a request.
struct PrintProgress {
    enum class State { sending, waiting, printing };
    State state = State::sending;
    std::size_t page = 0; ///< by its index
};
using TellPrint = std::function<void(const PrintProgress&)>;

/// The names of the queues that this computer prints to, the usual one first; empty where there is no print
/// service.
std::vector<std::string> printersKnown();

/// What the printer's media may be, in the protocol's words: "stationery", "labels", "photographic-glossy".
/// Throws OutputError where it is not there.
std::vector<std::string> mediaTypesOf(const std::string& printer, const std::stop_token& stop = {});

/// Prints each page as a job of its own, as it was written: never scaled, on the medium of its size, or the
/// smallest that holds it. `printer`: a queue's name, or an address as ipp://HOST:PORT/ipp/print. Returns
/// once the last one is printed. Stopped: what is not printed yet is cancelled. Throws OutputError: the
/// printer is not there, its media are smaller than a page (then nothing is sent), it takes no PDF, or gives
/// a job up.
void printTo(const std::string& printer, const PrintRequest& request, const TellPrint& tell = {},
             const std::stop_token& stop = {});

} // namespace hasami
