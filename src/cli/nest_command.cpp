#include "cli/nest_command.h"

#include "base/error.h"
#include "base/translation.h"
#include "cli/search.h"
#include "files/file_name.h"
#include "files/outputs.h"
#include "files/read_file.h"
#include "nesting/nest_json.h"

#include <chrono>
#include <iostream>

namespace hasami {

namespace {

constexpr std::size_t mostBytes = std::size_t{256} << 20;

nesting::Problem readProblem(const std::string& path) {
    const std::vector<std::byte> bytes = readFile(path, mostBytes);
    try {
        return nesting::problemFromJson({reinterpret_cast<const char*>(bytes.data()), bytes.size()});
    } catch (const InputError& error) {
        throw InputError(fileName(path) + ": " + error.what());
    }
}

} // namespace

void NestCommand::addTo(CLI::App& program) {
    CLI::App* command =
        program.add_subcommand("nest", translated("Parts onto as little of the medium as possible"));
    command->add_option("input", input, translated("The medium and the parts, as JSON (docs/nest.md)"))
        ->required();
    command->add_option("-o", output, translated("Where to write the layout: .json"))->required();
    auto* time = command->add_option("--seconds", seconds, translated("How long to search (start value: 10)"))
                     ->check(CLI::Range(0.0, mostSearchSeconds));
    command
        ->add_option("--moves", moves,
                     translated("Search this many moves instead: the same result on every run"))
        ->check(CLI::Range(std::uint64_t{1}, std::uint64_t{1} << 40))
        ->excludes(time);
    command->add_option("--seed", seed, translated("Another search for each number (start value: 1)"));
    command->add_option("--threads", threads, translated("Threads at most; 0: all cores"))
        ->check(CLI::Range(0, 1024));
}

int NestCommand::run() const {
    if (std::filesystem::path(output).extension() != ".json")
        throw UsageError(sentence("%1: a layout is written as .json", fileName(output)));
    const auto begin = std::chrono::steady_clock::now();
    const nesting::Problem problem = readProblem(input);
    nesting::Effort effort{seconds, {}, seed, threads};
    if (moves > 0)
        effort.moves = moves;
    nesting::Nest result;
    try {
        result = nestWatched(problem, effort);
    } catch (const InputError& error) {
        throw InputError(fileName(input) + ": " + error.what());
    }
    const std::chrono::duration<double> taken = std::chrono::steady_clock::now() - begin;
    writeAll({{output, nestToJson(problem, result, taken.count())}});
    for (const nesting::NotPlaced& lost : result.notPlaced)
        std::cerr << sentence("%1 of %2 not placed: %3", std::to_string(lost.copies),
                              problem.parts[lost.part].id, lost.reason)
                  << "\n";
    return result.notPlaced.empty() ? 0 : 1;
}

} // namespace hasami
