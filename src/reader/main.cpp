// hasami-reader: reads strangers' vector art from its standard input, in a process of its own with limits on
// memory and time. What it can't read ends it, not Hasami.
//
//   hasami-reader svg < drawing.svg: "scale S" and a line's end, and a PDF file of one page, enlarged so
//   hasami-reader page N S < file.pdf: what the file holds, what page N paints, and a picture of it

#include "base/error.h"
#include "reader/pdf_page.h"
#include "reader/svg_to_pdf.h"

#include <algorithm>
#include <array>
#include <cstdio>
#include <cstdlib>
#include <exception>
#include <new>
#include <string>
#include <string_view>
#include <sys/prctl.h>
#include <sys/resource.h>

namespace {

using namespace hasami;

void limit(__rlimit_resource what, rlim_t most) {
    const rlimit limits{most, most};
    setrlimit(what, &limits);
}

void limitMyself() {
#if !defined(__SANITIZE_ADDRESS__)
    limit(RLIMIT_AS, rlim_t{3} << 30);
#endif
    limit(RLIMIT_CPU, 60);
    limit(RLIMIT_CORE, 0);
    prctl(PR_SET_NO_NEW_PRIVS, 1, 0, 0, 0);
}

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
    if (what == "svg" && argc == 2) {
        const EnlargedPdf made = svgToPdf(standardInput());
        put("scale " + std::to_string(made.scale) + "\n" + made.pdf);
        return 0;
    }
    if (what == "page" && argc == 4) {
        put(pageAnswer(standardInput(), std::atoi(argv[2]), std::clamp(std::atof(argv[3]), 1.0, 100.0)));
        return 0;
    }
    std::fputs("hasami-reader svg | page N SCALE: reads vector art for Hasami\n", stderr);
    return 2;
}

} // namespace

int main(int argc, char** argv) {
    limitMyself();
    try {
        return run(argc, argv);
    } catch (const InputError& error) {
        std::fputs(error.what(), stderr);
        return 3;
    } catch (const std::bad_alloc&) {
        std::fputs("takes more memory than Hasami gives to one file", stderr);
        return 3;
    } catch (const std::exception&) {
        std::fputs("can't be read", stderr);
        return 3;
    }
}
