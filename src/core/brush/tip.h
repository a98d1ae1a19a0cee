// The shape of a brush: round, square with soft corners, or any greyscale picture.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace jam {

enum class TipShape { round, square, picture };
constexpr int kTipShapes = 3;

std::string_view tipShapeName(TipShape shape);  // "round", "square", "picture"
std::optional<TipShape> tipShapeFromName(std::string_view name);

// A square greyscale picture: white is full strength. It never changes once made.
struct TipPicture {
    std::string name;           // "Crater rim"
    int size = 0;               // samples a side, [2, kMaxTipSize]
    std::vector<float> values;  // rows from the north, [0, 1]

    // Bilinear at (u, v) in [-1, 1] from the west and the north edge; 0 outside.
    float at(float u, float v) const;
    bool operator==(const TipPicture&) const = default;
};
constexpr int kMaxTipSize = 1025;

struct Tip {
    TipShape shape = TipShape::round;
    std::shared_ptr<const TipPicture> picture;  // with TipShape::picture only
    float turn = 0;                             // degrees clockwise seen from above, [-360, 360]
    bool randomTurn = false;                    // each stamp another way round
    bool follow = false;                        // turned along the stroke
    float scatter = 0;                          // stamps fall up to this share of the radius beside the path, [0, 2]

    bool operator==(const Tip& o) const;
};

// Softness of a square's corners: the share of the half side that is rounded.
constexpr float kSquareCorner = 0.35f;
// Distance from the centre of a rounded square with half side 1, as a share: 0 centre, 1 on its outline.
float squareShare(float u, float v);

}  // namespace jam
