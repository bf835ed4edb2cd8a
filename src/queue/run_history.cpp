#include "queue/run_history.h"

#include "base/error.h"
#include "base/json_reader.h"
#include "base/translation.h"
#include "files/file_name.h"
#include "files/read_file.h"
#include "files/safe_write.h"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <limits>
#include <unistd.h>

namespace hasami {

namespace {

constexpr std::size_t mostHistoryBytes = std::size_t{64} << 20;
constexpr std::size_t longestLine = 20'000;
constexpr double mostSeconds = 1e12;

nlohmann::json jsonOf(const std::optional<double>& value) {
    return value ? nlohmann::json(*value) : nlohmann::json();
}

std::optional<double> distanceFrom(const JsonReader& in) {
    constexpr double most = 1e6; // mm
    return in.isNull() ? std::nullopt : std::optional(in.number(0, most));
}

/// A line goes to the end of the file in one piece, whoever else writes there.
class LineFile {
public:
    explicit LineFile(const std::filesystem::path& path)
        : path_(path),
          handle_(::open(path.c_str(), O_WRONLY | O_CREAT | O_APPEND | O_CLOEXEC, S_IRUSR | S_IWUSR)) {
        if (handle_ < 0)
            fail();
    }
    ~LineFile() { ::close(handle_); }
    LineFile(const LineFile&) = delete;
    LineFile& operator=(const LineFile&) = delete;

    void add(const std::string& line) {
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

} // namespace

std::string toJson(const PastRun& run) {
    const nlohmann::json json{{"ended", run.ended},
                              {"job", run.job},
                              {"sheet", run.sheet},
                              {"copy", run.copy},
                              {"copies", run.copies},
                              {"work", int(run.work)},
                              {"simulated", run.isSimulated},
                              {"seconds", run.seconds},
                              {"lines", run.lines},
                              {"rms", jsonOf(run.rms)},
                              {"largest", jsonOf(run.largest)},
                              {"trouble", run.trouble}};
    return json.dump(-1, ' ', false, nlohmann::json::error_handler_t::replace);
}

PastRun pastRunFromJson(std::string_view text) {
    constexpr int most = std::numeric_limits<int>::max();
    const nlohmann::json json = parseJson(text);
    const JsonReader in(json, "");
    PastRun run;
    run.ended = std::int64_t(in.at("ended").number(-mostSeconds, mostSeconds));
    run.job = in.at("job").text(longestLine);
    run.sheet = std::size_t(in.at("sheet").wholeNumber(0, most));
    run.copy = in.at("copy").wholeNumber(0, mostQueueCopies);
    run.copies = in.at("copies").wholeNumber(1, mostQueueCopies);
    run.work = RunWork(in.at("work").wholeNumber(0, int(runWorks.size()) - 1));
    run.isSimulated = in.at("simulated").flag();
    run.seconds = in.at("seconds").number(0, mostSeconds);
    run.lines = std::size_t(in.at("lines").wholeNumber(0, most));
    run.rms = distanceFrom(in.at("rms"));
    run.largest = distanceFrom(in.at("largest"));
    run.trouble = in.at("trouble").text(longestLine);
    return run;
}

void addToHistory(const std::filesystem::path& file, const PastRun& run) {
    LineFile(file).add(toJson(run) + "\n");
}

std::vector<PastRun> readHistory(const std::filesystem::path& file, std::size_t most) {
    std::error_code ignored;
    if (!std::filesystem::exists(file, ignored))
        return {};
    const auto bytes = readFile(file, mostHistoryBytes);
    std::string_view rest(reinterpret_cast<const char*>(bytes.data()), bytes.size());
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
