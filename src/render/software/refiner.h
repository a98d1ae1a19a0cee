// Which piece of the picture to refine next, and how large: what lies nearest to the hand first, and never more than
// about a time budget allows, so that events are handled in between. What a pixel costs differs twentyfold between
// places of one picture, so it is learnt place by place while one looks, and kept until the view moves.
#pragma once

#include <functional>
#include <optional>
#include <vector>

#include "render/pixel_rect.h"

namespace jam {

class Refiner {
public:
    // Pixels of what is refined at least. Software drivers give each thread squares of 64 pixels from the left, so
    // cells lie half in one and half in the next: two threads work on the smallest piece.
    static constexpr int kCellWidth = 64, kCellHeight = 8, kCellShift = 32;
    static constexpr double kBudgetMs = 7;   // that a piece may take
    static constexpr double kPieceMs = 0.6;  // of it whatever its size
    static constexpr int kMostPixels = 448;  // along a side of a piece
    static constexpr int kFirstPixels = 16;  // rows of the first piece while nothing is known of what this view costs

    // Another size of picture: all of it waits, nothing is known.
    void resize(int width, int height);
    // The camera moved: what places cost is guessed anew, from what was typical.
    void forget();

    void wait(const PixelRect& part);  // shows something rough, and waits to be refined
    // The same for each cell of which it is so.
    void waitWhere(const std::function<bool(const PixelRect& cell)>& so);
    bool done() const { return waiting_ == 0; }
    // The next piece, nearest to this pixel and clear of some pixels; none when nothing else waits.
    std::optional<PixelRect> next(double x, double y, const PixelRect& but = {}) const;
    // A piece was drawn in so many milliseconds. One that is not complete waits on, and that it was quick tells
    // nothing: drawn as it should be it may take twenty times as long.
    void took(const PixelRect& piece, double ms, bool complete = true);
    // What a piece is likely to take, ms.
    double likely(const PixelRect& piece) const;

private:
    struct Cells {
        int x0, y0, x1, y1;
        bool hold(int x, int y) const { return x >= x0 && x < x1 && y >= y0 && y < y1; }
    };  // half open
    struct Cell {
        float ms = 0;
        bool known = false, waits = false;
    };
    Cells cellsOf(const PixelRect& part) const;
    PixelRect pixelsOf(const Cells& cells) const;
    double likely(int x, int y) const;
    const Cell& at(int x, int y) const { return cells_[static_cast<size_t>(y * across_ + x)]; }
    Cell& at(int x, int y) { return cells_[static_cast<size_t>(y * across_ + x)]; }

    int width_ = 0, height_ = 0, across_ = 0, down_ = 0;
    std::vector<Cell> cells_;
    int waiting_ = 0;
    double typical_ = 2;   // ms a cell, of late
    double late_ = 1;      // how many times as long as was likely pieces took of late: others may use the machine too
    bool learnt_ = false;  // whether a piece was drawn since the camera moved
};

}  // namespace jam
