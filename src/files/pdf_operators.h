#pragma once

#include "files/qpdf.h"

#include <string>
#include <string_view>
#include <vector>

namespace hasami {

/// What a painting operator of a path does (ISO 32000-1, 8.5.3).
struct PathPainting {
    bool strokes = false, fills = false, closes = false, isEvenOdd = false;

    bool paints() const { return strokes || fills; }
};

/// Nothing of one that paints no path.
PathPainting pathPainting(std::string_view name);
/// The operator that does that, after "h" where it has to be closed first: "n" where nothing is painted.
std::string nameOf(const PathPainting& painting);

/// Goes through a content stream operator by operator, so that some of them can be changed or left out.
class OperatorFilter : public QPDFObjectHandle::TokenFilter {
public:
    void handleToken(const QPDFTokenizer::Token& token) final;
    void handleEOF() final { writeOperands(); }

protected:
    /// Has to write it, or what stands for it.
    virtual void handleOperator(const std::string& name) = 0;

    void keep();                                              ///< the operator as it is
    void replace(const std::string& by);                      ///< with its operands
    void leaveOut();                                          ///< with its operands
    void keepUnseen();                                        ///< text: what follows it stays in its place
    const std::string& lastName() const { return lastName_; } ///< among the operands, or before
    bool paintsMask() const { return hasMask_; }              ///< of an inline picture: a stencil

    static bool showsText(std::string_view name);

private:
    void writeOperands();

    std::vector<QPDFTokenizer::Token> operands_; // with the blanks between them
    std::string name_, lastName_, lastNumber_;
    std::string renderingMode_ = "0";
    std::vector<std::string> savedModes_;
    bool hasMask_ = false;
};

} // namespace hasami
