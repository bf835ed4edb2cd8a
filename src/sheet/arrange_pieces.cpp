#include "sheet/arrange_pieces.h"

#include <cmath>
#include <numbers>

namespace hasami {

Box PieceArrangement::boxOf(const Numbers& numbers) const {
    Box box;
    for (const std::size_t i : numbers)
        box.add(bodyOf(laid_.at(i), copies_).box);
    return box;
}

void PieceArrangement::move(const Numbers& numbers, Point by, std::optional<int> sheet) {
    for (const std::size_t i : numbers) {
        LaidPiece& piece = laid_.at(i);
        piece.centre = piece.centre + by;
        piece.sheet = sheet.value_or(piece.sheet);
        piece.isPinned = true;
    }
}

void PieceArrangement::turn(const Numbers& numbers, double degrees) {
    const Point about = boxOf(numbers).centre();
    const Affine turned = Affine::translation(about) * Affine::rotation(degrees * std::numbers::pi / 180) *
                          Affine::translation(Point{} - about);
    for (const std::size_t i : numbers) {
        LaidPiece& piece = laid_.at(i);
        piece.centre = turned(piece.centre);
        piece.turn = std::remainder(piece.turn + degrees, 360);
        piece.isPinned = true;
    }
}

void PieceArrangement::pin(const Numbers& numbers, bool isPinned) {
    for (const std::size_t i : numbers)
        laid_.at(i).isPinned = isPinned;
}

void PieceArrangement::align(const Numbers& numbers, Alignment alignment) {
    const Box within = numbers.size() > 1
                           ? boxOf(numbers)
                           : workArea(plan_, profile_).grownBy(plan_.box ? -plan_.box->margin : 0);
    for (const std::size_t i : numbers)
        move({i}, alignmentMove(boxOf({i}), within, alignment));
    pushApart(numbers);
}

PieceArrangement::Numbers PieceArrangement::duplicate(const Numbers& numbers) {
    Numbers made;
    for (const std::size_t i : numbers) {
        const std::size_t number = laid_.size();
        laid_.push_back(laid_.at(i));
        laid_.back().isPinned = false;
        laid_.back().copy = 0;
        if (makeRoom({number}))
            made.push_back(number);
        else
            laid_.pop_back();
    }
    numberCopies(laid_);
    return made;
}

bool PieceArrangement::makeRoom(const Numbers& numbers) {
    if (numbers.empty())
        return true;
    std::vector<Body> bodies;
    bodies.reserve(numbers.size());
    for (const std::size_t i : numbers)
        bodies.push_back(bodyOf(laid_.at(i), copies_));
    const auto by = around(laid_.at(numbers.front()).sheet, numbers).nearestFree(bodies);
    if (!by)
        return false;
    for (const std::size_t i : numbers)
        laid_.at(i).centre = laid_.at(i).centre + *by;
    return true;
}

std::size_t PieceArrangement::pushApart(const Numbers& numbers) {
    std::size_t lost = 0;
    for (const std::size_t i : numbers)
        lost += makeRoom({i}) ? 0 : 1;
    return lost;
}

} // namespace hasami
