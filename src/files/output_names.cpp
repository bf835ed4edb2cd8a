#include "files/output_names.h"

#include "base/error.h"
#include "base/translation.h"

#include <algorithm>
#include <map>

namespace hasami {

namespace {

/// "white", "tool1", or nothing.
std::string wordOf(const OutputPart& part) {
    return part.ink      ? std::string(inkName(*part.ink))
           : part.holder ? "tool" + std::to_string(*part.holder)
                         : std::string();
}

void add(std::string& name, const std::string& word) {
    if (!word.empty())
        name += (name.empty() ? "" : "-") + word;
}

std::string replaced(const std::string& pattern, const std::map<std::string, std::string>& values) {
    std::string name;
    for (std::size_t at = 0; at < pattern.size();) {
        const std::size_t open = pattern.find('{', at), close = pattern.find('}', open);
        name += pattern.substr(at, open - at);
        if (open == std::string::npos)
            break;
        const auto value = values.find(pattern.substr(open, close - open + 1));
        if (close == std::string::npos || value == values.end())
            throw OutputError(sentence("the pattern for names holds %1, which is none of {job}, {sheet}, "
                                       "{what} and {day}",
                                       close == std::string::npos ? pattern.substr(open)
                                                                  : pattern.substr(open, close - open + 1)));
        name += value->second;
        at = close + 1;
    }
    return name;
}

/// A job's name may hold what no file's can.
std::string usable(std::string name) {
    std::ranges::replace_if(
        name, [](unsigned char c) { return c == '/' || c == '\\' || c < 32; }, '-');
    return name.empty() ? translated("untitled") : name;
}

} // namespace

NameOutput namedLike(const std::filesystem::path& path, bool isAlone) {
    return [path, isAlone](const OutputPart& part) {
        std::string name = path.stem().string();
        if (part.sheet.value_or(0) > 0 && !isAlone)
            add(name, std::to_string(*part.sheet + 1));
        add(name, wordOf(part));
        return path.parent_path() / (name + path.extension().string());
    };
}

std::string endingOf(const PlannedOutput& output, const Job& job) {
    if (output.what == PlannedOutput::What::print)
        return std::array{".pdf", ".eps", ".png", ".tiff"}.at(std::size_t(output.print));
    const CutLanguage language = output.cut.value_or(job.profile.cutter.language);
    return std::array{".svg", ".dxf", ".plt", ".pdf"}.at(std::size_t(language));
}

NameOutput namedByPlan(const std::filesystem::path& folder, const PlannedOutput& output, const Job& job,
                       std::size_t sheets) {
    const std::string& pattern = job.outputs.names;
    if (pattern.find('/') != std::string::npos)
        throw OutputError(sentence("the pattern for names holds a slash: the folder has a field of its own"));
    if (std::ranges::any_of(pattern, [](unsigned char c) { return c < 32; }))
        throw OutputError(sentence("the pattern for names holds a character that no file's name can have"));
    const auto holds = [&](const char* what) { return pattern.find(what) != std::string::npos; };
    const bool tellsSheets = holds("{sheet}") || sheets <= 1, tellsParts = holds("{what}");
    return [=, ending = endingOf(output, job), isPrint = output.what == PlannedOutput::What::print,
            job = usable(job.name), day = job.day](const OutputPart& part) {
        std::string what = isPrint ? "print" : "cut";
        add(what, wordOf(part));
        std::string name = replaced(
            pattern, {{"{job}", job},
                      {"{sheet}", part.sheet || sheets <= 1 ? std::to_string(part.sheet.value_or(0) + 1)
                                                            : std::string("all")},
                      {"{what}", what},
                      {"{day}", day}});
        if (name.find_first_not_of(" .") == std::string::npos)
            throw OutputError(sentence("the pattern for names gives none: write {job}-{sheet}-{what}"));
        if (!tellsSheets && part.sheet.value_or(0) > 0)
            add(name, std::to_string(*part.sheet + 1));
        if (!tellsParts)
            add(name, wordOf(part));
        return folder / (name + ending);
    };
}

std::string cutNameOf(const Job& job, std::size_t sheet, std::size_t sheets) {
    PlannedOutput cut{PlannedOutput::What::cut};
    cut.cut = CutLanguage::hpgl;
    return namedByPlan({}, cut, job, sheets)({sheet}).string();
}

} // namespace hasami
