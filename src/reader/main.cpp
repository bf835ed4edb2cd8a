// hasami-reader: reads strangers' artwork from its standard input, in a process of its own that may do little
// else (reader/confinement.h). What it can't read ends it, not Hasami.
//
//   hasami-reader svg < drawing.svg: "scale S" and a line's end, and a PDF file of one page, enlarged so
//   hasami-reader page N S < file.pdf: what the file holds, what page N paints, and a picture of it
//   hasami-reader picture KIND N < file: page N of a TIFF, WebP or GIF picture, in memory shared as
//   descriptor 3 hasami-reader confined PROGRAM ARGUMENT...: becomes that program, with the same limits

#include "base/error.h"
#include "reader/confinement.h"
#include "reader/pdf_page.h"
#include "reader/picture_answer.h"
#include "reader/refusal.h"
#include "reader/svg_to_pdf.h"

#include <algorithm>
#include <array>
#include <cstdio>
#include <cstdlib>
#include <exception>
#include <new>
#include <span>
#include <string>
#include <string_view>
#include <unistd.h>

namespace {

using namespace hasami;

std::string standardInput() {
    std::string bytes;
    std::array<char, 1 << 16> part{};
    while (const std::size_t count = std::fread(part.data(), 1, part.size(), stdin))
        bytes.append(part.data(), count);
    return bytes;
}

void put(std::string_view bytes) {
    if (std::fwrite(bytes.data(), 1, bytes.size(), stdout) != bytes.size())
        std::exit(4);
}

int run(int argc, char** argv) {
    const std::string_view what = argc > 1 ? argv[1] : "";
    const bool becomesAnother = what == "confined" && argc > 2;
    if (!confine(becomesAnother ? Confinement::program : Confinement::reader))
        refuse("%1 can't be read: this system does not let Hasami confine what reads it");
    if (becomesAnother) {
        execv(argv[2], argv + 2);
        refuse("%1 can't be read: %2 can't be started", argv[2]);
    }
    if (what == "svg" && argc == 2) {
        const EnlargedPdf made = svgToPdf(standardInput());
        put("scale " + std::to_string(made.scale) + "\n" + made.pdf);
        return 0;
    }
    if (what == "page" && argc == 4) {
        put(pageAnswer(standardInput(), std::atoi(argv[2]), std::clamp(std::atof(argv[3]), 1.0, 100.0)));
        return 0;
    }
    if (what == "picture" && argc == 4) {
        answerPicture(argv[2], std::atoi(argv[3]), standardInput());
        return 0;
    }
    std::fputs(
        "hasami-reader svg | page N SCALE | picture KIND N | confined PROGRAM...: reads artwork for Hasami\n",
        stderr);
    return 2;
}

} // namespace

#ifdef HASAMI_SANITIZED
/// The search for leaks traces the process, which the filter forbids; and what the libraries keep to the end
/// is theirs.
extern "C" const char* __asan_default_options() { // NOLINT: the name is the sanitizer's
    return "detect_leaks=0";
}
#endif

int main(int argc, char** argv) {
    try {
        return run(argc, argv);
    } catch (const InputError& error) {
        std::fputs(error.what(), stderr);
        return 3;
    } catch (const std::bad_alloc&) {
        std::fputs(N_("%1 takes more memory than Hasami gives to one file"), stderr);
        return 3;
    } catch (const std::exception&) {
        std::fputs(N_("%1 is too damaged to be read"), stderr);
        return 3;
    }
}
