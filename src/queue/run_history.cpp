#include "queue/run_history.h"

#include "base/error.h"
#include "base/translation.h"
#include "files/file_name.h"
#include "files/safe_write.h"
#include "queue/queue_fields.h"

#include <algorithm>
#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <fstream>
#include <unistd.h>

namespace hasami {

namespace {

constexpr std::size_t mostHistoryBytes = std::size_t{64} << 20;

/// A line goes to the end of the file in one piece, whoever else writes there.
class LineFile {
public:
    explicit LineFile(const std::filesystem::path& path)
        : path_(path),
          handle_(::open(path.c_str(), O_RDWR | O_CREAT | O_APPEND | O_CLOEXEC, S_IRUSR | S_IWUSR)) {
        if (handle_ < 0)
            fail();
    }
    ~LineFile() { ::close(handle_); }
    LineFile(const LineFile&) = delete;
    LineFile& operator=(const LineFile&) = delete;

    /// Behind half a line, as a machine that stopped leaves it, a new one begins.
    void add(std::string line) {
        char last = '\n';
        const off_t size = ::lseek(handle_, 0, SEEK_END);
        if (size > 0 && ::pread(handle_, &last, 1, size - 1) == 1 && last != '\n')
            line.insert(line.begin(), '\n');
        if (::write(handle_, line.data(), line.size()) != ssize_t(line.size()) || ::fsync(handle_) != 0)
            fail();
    }

private:
    [[noreturn]] void fail() const {
        throw OutputError(
            sentence("%1 can't be written: %2", fileName(path_), std::string(std::strerror(errno))));
    }
    std::filesystem::path path_;
    int handle_;
};

/// The last bytes of a file. Throws InputError.
std::string endOf(const std::filesystem::path& file, std::size_t most) {
    std::ifstream in(file, std::ios::binary | std::ios::ate);
    const std::streamoff size = in ? std::streamoff(in.tellg()) : -1;
    if (size < 0)
        throw InputError(sentence("%1 can't be read", fileName(file)));
    const std::streamoff start = std::max<std::streamoff>(0, size - std::streamoff(most));
    std::string bytes(std::size_t(size - start), '\0');
    in.seekg(start);
    in.read(bytes.data(), std::streamsize(bytes.size()));
    bytes.resize(std::size_t(in.gcount()));
    return bytes;
}

} // namespace

std::string toJson(const PastRun& run) {
    return keptText(keptJson(run, run.unknown));
}

PastRun pastRunFromJson(std::string_view text) {
    nlohmann::json json = parseJson(text);
    if (formatOf(json) == 1)
        nameNumber(json["work"], worksInFiles);
    std::string unknown;
    PastRun run = fromKept<PastRun>(json, unknown);
    run.unknown = std::move(unknown);
    return run;
}

void addToHistory(const std::filesystem::path& file, const PastRun& run) {
    LineFile(file).add(toJson(run) + "\n");
}

std::vector<PastRun> readHistory(const std::filesystem::path& file, std::size_t most) {
    std::error_code ignored;
    if (!std::filesystem::exists(file, ignored))
        return {};
    const std::string bytes = endOf(file, mostHistoryBytes);
    std::string_view rest(bytes);
    std::vector<PastRun> runs;
    while (!rest.empty() && runs.size() < most) {
        if (rest.back() == '\n')
            rest.remove_suffix(1);
        const auto start = rest.rfind('\n');
        const std::string_view line = start == std::string_view::npos ? rest : rest.substr(start + 1);
        rest = start == std::string_view::npos ? std::string_view() : rest.substr(0, start + 1);
        try {
            runs.push_back(pastRunFromJson(line));
        } catch (const InputError&) {
            continue; // half a line, where the machine stopped while it was written
        }
    }
    return runs;
}

void clearHistory(const std::filesystem::path& file) {
    writeSafely(file, {});
}

} // namespace hasami
