// Who makes the demo level: strokes by the metre, along paths.
#pragma once

#include <cmath>
#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "cover/rules.h"
#include "cover/wash.h"
#include "level/strata.h"
#include "stroke/stroker.h"

namespace jam::samples {

struct Place {
    double x, z;
};
using Path = std::vector<Place>;

// The sculptor: strokes by the metre. Works on a level until something is refused.
class Hand {
public:
    explicit Hand(Level level) : level_(std::move(level)) {}

    Level& level() { return level_; }
    const std::optional<Error>& trouble() const { return trouble_; }

    // Holds the brush still until the crown has gone up (or down) by `metres`.
    void mound(Place at, float radius, double metres, Falloff falloff = {}) {
        StrokeSettings s;
        s.tool = metres > 0 ? Tool::raise : Tool::lower;
        s.radius = radius;
        s.strength = 10;
        s.falloff = falloff;
        run({s, {{at.x, at.z, 1, 0}, {at.x, at.z, 1, std::max(std::abs(metres) / s.strength - kStampSeconds, 0.0)}}});
    }
    // Moves the brush along a path so that the crown goes up (or down) by about `metres`.
    void bank(const Path& path, float radius, double metres, Falloff falloff = {}) {
        StrokeSettings s;
        s.tool = metres > 0 ? Tool::raise : Tool::lower;
        s.radius = radius;
        // Stamps overlap by 1 / StrokeSettings{}.spacing; a smooth falloff integrates to 1 radius.
        s.strength = static_cast<float>(std::abs(metres) * StrokeSettings{}.spacing / kStampSeconds);
        s.falloff = falloff;
        run(along(s, path));
    }
    void level(const Path& path, float radius, float height, float strength, Falloff falloff = {},
               Earthwork way = Earthwork::both) {
        StrokeSettings s;
        s.tool = Tool::flatten;
        s.radius = radius;
        s.strength = strength;
        s.falloff = falloff;
        s.height = height;
        s.earthwork = way;
        run(along(s, path));
    }
    void smooth(const Path& path, float radius, float strength, float grain) {
        StrokeSettings s;
        s.tool = Tool::smooth;
        s.radius = radius;
        s.strength = strength;
        s.smoothing = grain;
        run(along(s, path));
    }
    // Any other tool along a path.
    void work(Tool tool, const Path& path, float radius, float strength,
              const std::function<void(StrokeSettings&)>& more = {}) {
        StrokeSettings s;
        s.tool = tool;
        s.radius = radius;
        s.strength = strength;
        if (more) more(s);
        run(along(s, path));
    }
    void paint(const std::string& layer, const Path& path, float radius, float strength, float target = 1,
               Falloff falloff = {}) {
        StrokeSettings s;
        s.tool = Tool::paint;
        s.radius = radius;
        s.strength = strength;
        s.falloff = falloff;
        s.target = target;
        s.layer = this->layer(layer);
        run(along(s, path));
    }

    // What follows goes to a stratum of its own, over all others; or to one that is there.
    void begin(const std::string& stratum) {
        for (const Stratum& s : level_.strata)
            if (s.name == stratum) return void(level_.activeStratum = s.id);
        level_.activeStratum = addStratum(level_, stratum, static_cast<int>(level_.strata.size()) - 1);
    }

    uint32_t layer(const std::string& name) const {
        for (const Layer& l : level_.layers)
            if (l.name == name) return l.id;
        return 0;
    }
    // Lays a layer by rules, which may stay alive.
    void lay(const std::string& name, std::vector<Rule> rules, bool alive) {
        level_.layer(layer(name))->rules = std::move(rules);
        if (alive) wakeRules(level_, layer(name), false);
        else bakeRules(level_, layer(name));
    }
    // Colour over the ground wherever `wanted` says how much.
    template <class F>
    void wash(const WashColour& colour, F wanted) {
        Raster<float> shares(level_.columns, level_.rows);
        for (int r = 0; r < level_.rows; ++r)
            for (int c = 0; c < level_.columns; ++c)
                shares.at(c, r) = std::clamp(
                    wanted(Place{level_.originX + c * level_.spacing, level_.originZ + r * level_.spacing}), 0.f, 1.f);
        Dab all;
        all.region = level_.bounds();
        all.shares = &shares;
        washGround(level_, all, 1, colour);
    }

private:
    static Stroke along(const StrokeSettings& s, const Path& path) {
        Stroke stroke{s, {}};
        for (const Place& p : path) stroke.points.push_back({p.x, p.z, 1, 0});
        return stroke;
    }
    void run(const Stroke& stroke) {
        if (trouble_) return;
        if (const Result<Change> r = runStroke(level_, stroke); !r) trouble_ = r.error();
    }

    Level level_;
    std::optional<Error> trouble_;
};

// Smooth curve through the given places (Catmull-Rom), a point about every 4 m.
Path curve(const Path& through);
// Part of a circle, degrees clockwise from north.
Path ring(Place centre, double radius, double from, double to);
// Moves a path sideways by `metres` (to the right of the way it goes).
Path beside(const Path& path, double metres);

}  // namespace jam::samples
