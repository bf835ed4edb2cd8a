#include "lettering.h"

#include "app/stickers/bench.h"
#include "app/stickers/lettering_hand.h"
#include "app/stickers/stickers_place.h"
#include "app/window/main_window.h"
#include "drawing/draw.h"
#include "files/font_library.h"

#include <QApplication>
#include <QKeyEvent>
#include <QPushButton>
#include <benchmark/benchmark.h>

#include <chrono>

namespace hasami::bench {

namespace {

constexpr double frame = 1.0 / 60; // s

/// Forty letters in one line.
const char* const line = "Heather honey from the moor above Quillmo";

Lettering letteringOf(const std::string& text) {
    Lettering lettering;
    lettering.text = text;
    lettering.fonts = {{"League Spartan", "Black"}};
    return lettering;
}

FontSource fonts() {
    static FontLibrary library;
    static const auto font = library.open(*library.find("League Spartan Black"));
    return [](const FontChoice&) { return font; };
}

/// From the key to the kiss line that was made of the new text, drawn.
void keyInFortyLetters(benchmark::State& state) {
    MainWindow window;
    window.show();
    QApplication::processEvents();
    window.findChild<QPushButton*>("Start with a word")->click();
    auto& bench = window.stickersPlace().bench();
    window.stickersPlace().lettering().selectAll();
    window.stickersPlace().lettering().type(line);
    Document& document = window.document();
    const auto isMade = [&] {
        const Design* design = document.selectedDesign();
        const MadeDesign* made = design ? document.newest(design->id) : nullptr;
        return made && made->artwork == design->artwork && !made->sticker->lines.empty();
    };
    const auto wait = [&] {
        while (!isMade())
            QApplication::processEvents(QEventLoop::AllEvents, 1);
    };
    wait();
    bool isLetter = false;
    for (auto _ : state) {
        const auto begin = std::chrono::steady_clock::now();
        isLetter = !isLetter;
        QKeyEvent key(QEvent::KeyPress, isLetter ? Qt::Key_R : Qt::Key_Backspace, Qt::NoModifier,
                      isLetter ? "r" : QString());
        QApplication::sendEvent(&bench, &key);
        wait();
        bench.repaint();
        state.SetIterationTime(
            std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count());
    }
    document.startNew();
}

void tighteningFortyLetters(benchmark::State& state) {
    Lettering lettering = letteringOf(line);
    double closeness = 0;
    for (auto _ : state) {
        lettering.closeness = closeness = closeness < 1 ? closeness + 0.1 : 0.1;
        benchmark::DoNotOptimize(letterOutlines(lettering, layLettering(lettering, fonts())));
    }
}

void twoHundredLines(benchmark::State& state) {
    std::string text = line;
    for (int i = 1; i < 200; ++i)
        text += std::string("\n") + line;
    const Lettering lettering = letteringOf(text);
    for (auto _ : state)
        benchmark::DoNotOptimize(letterOutlines(lettering, layLettering(lettering, fonts())));
}

void oneFrameOfLettering(benchmark::State& state) {
    for (auto _ : state)
        state.SetIterationTime(frame);
}

} // namespace

void registerLettering() {
    constexpr auto in = benchmark::kMillisecond;
    const std::pair<const char*, void (*)(benchmark::State&)> pairs[] = {
        {"key in a line of 40 letters to its kiss line, to a frame/most:3", keyInFortyLetters},
        {"40 letters tightened, to a frame/most:1", tighteningFortyLetters},
        {"200 lines of text outlined, to a frame/most:6", twoHundredLines}};
    for (const auto& [name, run] : pairs) {
        auto* ours = benchmark::RegisterBenchmark((std::string(name) + "/ours").c_str(), run);
        ours->Unit(in)->Iterations(10);
        if (run == keyInFortyLetters)
            ours->UseManualTime();
        else
            ours->UseRealTime();
        benchmark::RegisterBenchmark((std::string(name) + "/peer").c_str(), oneFrameOfLettering)
            ->Unit(in)
            ->Iterations(10)
            ->UseManualTime();
    }
}

} // namespace hasami::bench
