#include "files/pdf_operators.h"

#include <algorithm>
#include <array>

namespace hasami {

namespace {

struct NamedPainting {
    std::string_view name;
    PathPainting painting;
};

constexpr std::array paintings{
    NamedPainting{"S", {true, false, false, false}}, NamedPainting{"s", {true, false, true, false}},
    NamedPainting{"f", {false, true, false, false}}, NamedPainting{"F", {false, true, false, false}},
    NamedPainting{"f*", {false, true, false, true}}, NamedPainting{"B", {true, true, false, false}},
    NamedPainting{"B*", {true, true, false, true}},  NamedPainting{"b", {true, true, true, false}},
    NamedPainting{"b*", {true, true, true, true}}};

} // namespace

PathPainting pathPainting(std::string_view name) {
    const auto* const found = std::ranges::find(paintings, name, &NamedPainting::name);
    return found == paintings.end() ? PathPainting() : found->painting;
}

std::string nameOf(const PathPainting& painting) {
    if (!painting.paints())
        return "n";
    const std::string closed = painting.closes ? "h " : "";
    const std::string rule = painting.isEvenOdd && painting.fills ? "*" : "";
    return closed + (painting.strokes && painting.fills ? "B" : painting.strokes ? "S" : "f") + rule;
}

bool OperatorFilter::showsText(std::string_view name) {
    constexpr std::array<std::string_view, 4> all{"Tj", "TJ", "'", "\""};
    return std::ranges::find(all, name) != all.end();
}

void OperatorFilter::handleToken(const QPDFTokenizer::Token& token) {
    const auto type = token.getType();
    const bool isPart =
        type == QPDFTokenizer::tt_word && (token.getValue() == "BI" || token.getValue() == "ID");
    if (type == QPDFTokenizer::tt_name)
        lastName_ = token.getValue();
    if (type == QPDFTokenizer::tt_integer)
        lastNumber_ = token.getValue();
    if (type == QPDFTokenizer::tt_bool && (lastName_ == "/IM" || lastName_ == "/ImageMask"))
        hasMask_ = token.getValue() == "true";
    operands_.push_back(token);
    if (type != QPDFTokenizer::tt_word || isPart)
        return;
    name_ = token.getValue();
    operands_.pop_back();
    if (name_ == "q")
        savedModes_.push_back(renderingMode_);
    if (name_ == "Tr")
        renderingMode_ = lastNumber_;
    if (name_ == "Q" && !savedModes_.empty()) {
        renderingMode_ = savedModes_.back();
        savedModes_.pop_back();
    }
    handleOperator(name_);
    operands_.clear();
    hasMask_ = false;
}

void OperatorFilter::keep() {
    writeOperands();
    write(name_);
}

void OperatorFilter::replace(const std::string& by) {
    writeOperands();
    write(by);
}

void OperatorFilter::leaveOut() {
    operands_.clear();
    write(" ");
}

void OperatorFilter::keepUnseen() {
    write(" 3 Tr ");
    keep();
    write(" " + renderingMode_ + " Tr ");
}

void OperatorFilter::writeOperands() {
    for (const QPDFTokenizer::Token& token : operands_)
        writeToken(token);
    operands_.clear();
}

} // namespace hasami
