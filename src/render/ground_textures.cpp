#include "ground_textures.h"

#include <algorithm>
#include <cmath>

#include "base/parallel.h"
#include "cover/lay.h"
#include "cover/weights.h"
#include "level/ground.h"
#include "write_in_time.h"

namespace jam {

namespace {

constexpr int kAtOnce = 4;  // pieces that are baked side by side

// Whether the lit map shows the same for both.
bool looksAlike(const Layer& x, const Layer& y) {
    const LayerLook &a = x.look, &b = y.look;
    return a.tint == b.tint && a.brightness == b.brightness && a.variation == b.variation && a.wash == b.wash &&
           a.farTimes == b.farTimes && x.tileSize == y.tileSize;
}

bool relooked(const Level& a, const Level& b) {
    return !std::equal(a.layers.begin(), a.layers.end(), b.layers.begin(), b.layers.end(), looksAlike);
}

}  // namespace

Region GroundTextures::tileRegion(int tx, int tz) const {
    return Region{tx * kTile, tz * kTile, (tx + 1) * kTile, (tz + 1) * kTile}.clipped(level_.bounds());
}

void GroundTextures::allocate(const Level& l) {
    // Both are made when they are to be filled, each in a moment of its own: making room takes a while.
    heights_ = {};
    litMap_ = LitMap(litMap_.minify());
    const auto count = [](int samples, int every) { return (samples + every - 1) / every; };
    blockLayers_ = Raster<uint16_t>(count(l.columns, NearWindow::kBlock), count(l.rows, NearWindow::kBlock));
    steep_ = Raster<uint8_t>(count(l.columns, Baked::kBlock), count(l.rows, Baked::kBlock));
    stale_ = Raster<Stale>(count(l.columns, kTile), count(l.rows, kTile));
    staleHeights_ = {};
    gaps_ = {};
    waiting_ = nearWaiting_ = 0;
    urgent_.clear();
    lined_ = false;
    shade_ = {};
    near_ = {};
    liveMetres_ = 0;  // the window is made when it is known where the eye is
    painted_ = {};
    paintedNow_ = {};
    if (!wander_) {
        wander_ = makeTexture();
        glBindTexture(GL_TEXTURE_2D, wander_);
        glPixelStorei(GL_UNPACK_ALIGNMENT, 1);
        glTexImage2D(GL_TEXTURE_2D, 0, GL_R8, kWanderTile, kWanderTile, 0, GL_RED, GL_UNSIGNED_BYTE,
                     wanderTile().data());
        glPixelStorei(GL_UNPACK_ALIGNMENT, 4);
        setFilter(GL_TEXTURE_2D, GL_LINEAR, GL_LINEAR, GL_REPEAT, GL_REPEAT);
    }
    rough_ = false;
    roughStep_ = 0;
    allocated_ = true;
}

// --- what is stale --------------------------------------------------------------------------------------------------

void GroundTextures::mark(Region Stale::*part, int tx, int tz, const Region& ground) {
    if (ground.empty()) return;
    const bool here = near_.holds(tx, tz);
    // Outside the window only the lit map is kept, and all of a tile is written when it comes in.
    if (!here && (part == &Stale::cover || part == &Stale::wash)) return;
    if (!here && part == &Stale::look) part = &Stale::lit;
    Stale& s = stale_.at(tx, tz);
    const bool any = s.any(), nearby = s.nearby();
    s.*part = (s.*part).joined(ground);
    waiting_ += !any;
    nearWaiting_ += here && !nearby && s.nearby();
    if (hurry_) urgent_.push_back({0, tx, tz});
}

void GroundTextures::mark(Region Stale::*part, const TileSet& ground) {
    ground.each([&](int tx, int tz, const Region& r) { mark(part, tx, tz, r); });
}

void GroundTextures::markAll(Region Stale::*part) {
    for (int tz = 0; tz < stale_.depth(); ++tz)
        for (int tx = 0; tx < stale_.width(); ++tx) mark(part, tx, tz, tileRegion(tx, tz));
}

Change GroundTextures::sync(const Level& next, const Change* hint) {
    const bool fresh = !allocated_ || !sameRaster(level_, next);
    const bool looks = !fresh && relooked(level_, next), recount = level_.layers.size() != next.layers.size();
    const bool repainted = materials_.sync(next);
    if (fresh) allocate(next);
    Change change = fresh ? allOf(next) : changesBetween(next, level_, hint);
    if (repainted || recount) change.cover.add(next.coverBounds());
    if (!fresh && !hint && hatch_) {
        // Where the hatching comes, goes or changes.
        const Fence none(next.columns, next.rows, 0);
        const Fence &was = level_.fenced ? level_.fence : none, &is = next.fenced ? next.fence : none;
        is.eachChangedTile(was, [&](int tx, int tz) { mark(&Stale::look, tx, tz, is.tileRegion(tx, tz)); });
    }
    level_ = next;
    if (fresh || looks) kept_.forget();
    if (recount && !fresh) liveMetres_ = 0;  // the window's slices are another number now
    const LightLook light = lightLook(level_.sun, flatLight_);
    const bool relit = !(light == light_);
    light_ = light;
    // By what the level's rasters show (level/rasters.h).
    hurry_ = hint != nullptr;
    for (const Shows shows : kAllShown) {
        const TileSet ground = shownGround(level_, change, shows);
        // All there is reaches no farther, and growing so many tiles would keep the window.
        const auto reaching = [&](int samples) { return fresh ? ground : ground.grown(samples, level_.bounds()); };
        switch (shows) {
            case Shows::ground:
                staleHeights_.add(ground);
                mark(&Stale::look, reaching(Relief(level_, relief_, 0).reach()));
                break;
            case Shows::weights:
                kept_.forget(ground);
                mark(&Stale::lit, ground);
                mark(&Stale::cover, ground);
                if (paintedNow_.layers) mark(&Stale::painted, ground);
                break;
            case Shows::wash:
                kept_.forget(ground);
                mark(&Stale::lit, ground);
                mark(&Stale::wash, ground);
                break;
            case Shows::gaps: gaps_.follow(level_, ground); break;
            case Shows::water: mark(&Stale::look, reaching(kWetReach)); break;
            case Shows::plantings:  // stand above it (dressing.h)
            case Shows::nothing: break;
        }
    }
    hurry_ = false;
    if (near_.wash()) near_.setWashed(level_, level_.wash.presentTiles() > 0);
    // The lights of relief turn with the sun, and near ground keeps what they give.
    if (relit || looks) markAll(relit && relief_.lift > 0 ? &Stale::look : &Stale::lit);
    return change;
}

void GroundTextures::setShade(Shade shade, const TileSet* changed) {
    // Of an older level.
    if (!shade.sun || shade.sun->width() != level_.columns || shade.sun->depth() != level_.rows) return;
    const bool first = !shade_.sun;
    shade_ = std::move(shade);
    if (flatLight_) return;
    if (changed && !first) mark(&Stale::look, *changed);
    else markAll(&Stale::look);
}

void GroundTextures::setFlatLight(bool flat) {
    if (flat == flatLight_) return;
    flatLight_ = flat;
    light_ = lightLook(level_.sun, flat);
    if (allocated_) markAll(&Stale::look);
}

void GroundTextures::setHatch(bool hatch) {
    if (hatch == hatch_) return;
    hatch_ = hatch;
    if (allocated_ && level_.fenced) mark(&Stale::look, presentTiles(level_.fence));
}

void GroundTextures::setRelief(const ReliefLook& relief) {
    if (relief == relief_) return;
    relief_ = relief;
    kept_.forget();
    if (allocated_) markAll(&Stale::look);
}

void GroundTextures::follow(const glm::dvec3& eye, double liveMetres, Painted painted) {
    const double column = level_.toColumn(eye.x), row = level_.toRow(eye.z);
    if (std::hypot(eye.x - eye_.x, eye.z - eye_.z) > kTile * level_.spacing / 2) {
        eye_ = eye;
        lined_ = false;
    }
    const Region before = near_.tiles();
    if (liveMetres != liveMetres_) {
        liveMetres_ = liveMetres;
        near_.allocate(level_, liveMetres);
    }
    const bool made = near_.tiles().empty();
    if (near_.centre(column, row)) {
        const Region now = near_.tiles();
        for (int tz = now.z0; tz < now.z1; ++tz)
            for (int tx = now.x0; tx < now.x1; ++tx) {
                if (!made && before.contains(tx, tz)) continue;
                for (const auto part : {&Stale::look, &Stale::cover, &Stale::wash})
                    mark(part, tx, tz, tileRegion(tx, tz));
            }
        // What left the window needs nothing but its place on the lit map.
        nearWaiting_ = 0;
        for (int tz = 0; tz < stale_.depth(); ++tz)
            for (int tx = 0; tx < stale_.width(); ++tx) {
                Stale& s = stale_.at(tx, tz);
                const bool here = near_.holds(tx, tz), any = s.any();
                if (!here) {
                    s.lit = s.lit.joined(s.look);
                    s.look = s.cover = s.wash = {};
                }
                waiting_ -= any && !s.any();
                nearWaiting_ += here && s.nearby();
            }
        lined_ = false;
    }
    if (painted == paintedNow_ || !litMap_.texture()) return;
    paintedNow_ = painted;
    painted_ = {};
    if (!painted.any()) return;
    painted_ = makeTexture();
    glBindTexture(GL_TEXTURE_2D, painted_);
    setFilter(GL_TEXTURE_2D, GL_LINEAR, GL_LINEAR, GL_CLAMP_TO_EDGE, GL_CLAMP_TO_EDGE);
    takeRoom(GL_R8, litMap_.width(), litMap_.depth());
    markAll(&Stale::painted);
}

bool GroundTextures::live(const Region& ground) const {
    const Region tiles = TiledGrid<float>::tilesOf(ground.clipped(level_.bounds())).clipped(near_.tiles());
    for (int tz = tiles.z0; tz < tiles.z1; ++tz)
        for (int tx = tiles.x0; tx < tiles.x1; ++tx)
            if (stale_.at(tx, tz).nearby()) return false;
    return true;
}

// --- bringing it up to date -----------------------------------------------------------------------------------------

TileSet GroundTextures::bring(double ms) {
    TileSet brought;
    const double until = nowMs() + ms;
    while (materials_.stale()) {
        materials_.bring();
        if (nowMs() >= until) return brought;
    }
    if (!heights_.begun()) {
        heights_ = LargeTexture::begin(roomHelper_, {0, GL_R32F, level_.columns, level_.rows});
        setFilter(GL_TEXTURE_2D, GL_NEAREST, GL_NEAREST, GL_CLAMP_TO_EDGE, GL_CLAMP_TO_EDGE);
        if (nowMs() >= until) return brought;
    }
    if (!heights_.there()) return brought;
    bringHeights(until, brought);
    if (!staleHeights_.empty()) return brought;
    gaps_.bring(level_, until, brought);
    if (gaps_.stale()) return brought;
    if (!litMap_.allocated()) {
        litMap_.allocate(level_.columns, level_.rows, level_.spacing, roomHelper_);
        if (nowMs() >= until) return brought;
    }
    if (!litMap_.there()) return brought;
    while (!rough_) {
        roughly();
        if (rough_) brought.add(level_.bounds());
        if (nowMs() >= until) return brought;
    }
    while (waiting_ > 0 && !near_.takeRoom(level_, roomHelper_))
        if (roomHelper_ || nowMs() >= until) return brought;
    if (waiting_ > 0 && !near_.wash()) {
        near_.setWashed(level_, level_.wash.presentTiles() > 0);
        if (nowMs() >= until) return brought;
    }
    while (waiting_ > 0) {
        if (!lined_ || (line_.empty() && urgent_.empty())) line();
        const bool byHand = !urgent_.empty();
        std::vector<Piece>& from = byHand ? urgent_ : line_;
        std::vector<Piece> some;
        for (; !from.empty() && some.size() < kAtOnce; from.pop_back()) {
            const Piece& p = from.back();
            const auto same = [&](const Piece& o) { return o.tx == p.tx && o.tz == p.tz; };
            if (stale_.at(p.tx, p.tz).any() && std::none_of(some.begin(), some.end(), same)) some.push_back(p);
        }
        if (some.empty()) continue;  // all that stood in line is done already
        bringPieces(some, byHand, brought);
        if (nowMs() >= until) break;
    }
    return brought;
}

void GroundTextures::bringHeights(double until, TileSet& brought) {
    glBindTexture(GL_TEXTURE_2D, heights_.texture());
    Raster<float> heights;
    writeInTime(staleHeights_, until, [&](const Region& part) {
        heights.reshape(part.width(), part.depth());
        readGround(level_, part, heights.view());
        glTexSubImage2D(GL_TEXTURE_2D, 0, part.x0, part.z0, part.width(), part.depth(), GL_RED, GL_FLOAT,
                        heights.view().data);
        brought.add(part);
    });
}

// One sample in sixteen each way, all over the level: something to see before the first fine pieces come. A step of it:
// the colours of some rows, or some of the lit map filled with them.
void GroundTextures::roughly() {
    constexpr int every = Baked::kBlock, atOnce = 32;
    const auto count = [](int samples) { return (samples + every - 1) / every; };
    if (roughStep_ == 0) roughColours_ = Raster<uint32_t>(count(level_.columns), count(level_.rows));
    Raster<uint32_t>& colours = roughColours_;
    const int steps = (colours.depth() + atOnce - 1) / atOnce, step = roughStep_++;
    if (step >= steps) {
        rough_ = !litMap_.fill(colours, every, step - steps);
        if (rough_) colours = {};
        return;
    }
    const int top = step * atOnce;
    const BakeSource from = source();
    parallelFor(std::min(atOnce, colours.depth() - top), 1, [&](int first, int end) {
        for (int z = top + first; z < top + end; ++z) {
            const Region strip{0, z * every, level_.columns, z * every + 1};
            const Baked baked = bake(from, strip, every, false);
            for (int x = 0; x < colours.width(); ++x) colours.at(x, z) = baked.lit.at(x, 0);
        }
    });
}

// Puts what waits in order: first the window, then the rest, by how far it is from the eye.
void GroundTextures::line() {
    line_.clear();
    for (int tz = 0; tz < stale_.depth(); ++tz)
        for (int tx = 0; tx < stale_.width(); ++tx) {
            if (!stale_.at(tx, tz).any()) continue;
            const double away = std::hypot(tx + 0.5 - level_.toColumn(eye_.x) / kTile,
                                           tz + 0.5 - level_.toRow(eye_.z) / kTile);
            line_.push_back({away + (near_.holds(tx, tz) ? 0 : 1e6), tx, tz});
        }
    std::sort(line_.begin(), line_.end(), [](const Piece& a, const Piece& b) { return a.away > b.away; });
    lined_ = true;
}

BakeSource GroundTextures::source() const {
    BakeSource s(level_, materials_.all(), light_, flatLight_ ? Shade{} : shade_, relief_);
    s.hatched = hatch_ && level_.fenced;
    return s;
}

void GroundTextures::bringPieces(const std::vector<Piece>& pieces, bool byHand, TileSet& brought) {
    const BakeSource from = source();
    std::vector<Baked> baked(pieces.size());
    std::vector<TileColours*> kept(pieces.size(), nullptr);
    kept_.beginTurn();
    for (size_t i = 0; i < pieces.size(); ++i)
        if (const Piece& p = pieces[i]; byHand && litMap_.stride() == 1 && !stale_.at(p.tx, p.tz).look.empty())
            kept[i] = &kept_.of(p.tx, p.tz);
    parallelFor(static_cast<int>(pieces.size()), 1, [&](int first, int end) {
        for (int i = first; i < end; ++i) {
            const Piece& p = pieces[static_cast<size_t>(i)];
            const Stale& s = stale_.at(p.tx, p.tz);
            const Region seen = s.look.joined(s.lit);
            if (!seen.empty())
                baked[static_cast<size_t>(i)] = bake(from, seen, litMap_.stride(),
                                                     !s.look.empty() && near_.holds(p.tx, p.tz),
                                                     kept[static_cast<size_t>(i)]);
        }
    });
    for (size_t i = 0; i < pieces.size(); ++i) {
        const Piece& p = pieces[i];
        Stale& s = stale_.at(p.tx, p.tz);
        const bool here = near_.holds(p.tx, p.tz);
        if (const Baked& b = baked[i]; !b.region.empty()) {
            litMap_.upload(b);
            if (b.surface.width() > 0) uploadNear(b);
        }
        if (!s.cover.empty()) near_.uploadWeights(level_, tileRegion(p.tx, p.tz), blockLayers_);
        if (!s.wash.empty()) near_.uploadWash(level_, s.wash);
        if (!s.painted.empty()) paint(s.painted);
        for (const Region& part : {s.look, s.lit, s.cover, s.wash, s.painted})
            if (!part.empty()) brought.add(part);
        waiting_ -= s.any();
        nearWaiting_ -= here && s.nearby();
        s = {};
    }
}

void GroundTextures::uploadNear(const Baked& b) {
    near_.uploadSurface(b);
    for (int z = 0; z < b.steep.depth(); ++z)
        for (int x = 0; x < b.steep.width(); ++x)
            steep_.at(b.region.x0 / Baked::kBlock + x, b.region.z0 / Baked::kBlock + z) = b.steep.at(x, z);
}

void GroundTextures::setReach(std::shared_ptr<const Raster<uint8_t>> classes, int stride) {
    reach_ = std::move(classes);
    reachStride_ = stride;
    if (paintedNow_.reach && painted_) markAll(&Stale::painted);
}

// One of Reached for each texel, far enough apart that a texture tells them.
void GroundTextures::paintReach(const Region& texels, Raster<uint8_t>& out) const {
    const int stride = litMap_.stride();
    for (int z = 0; z < texels.depth(); ++z)
        for (int x = 0; x < texels.width(); ++x) {
            const int c = (texels.x0 + x) * stride / reachStride_, r = (texels.z0 + z) * stride / reachStride_;
            const bool known = reach_ && c < reach_->width() && r < reach_->depth();
            out.at(x, z) = known ? static_cast<uint8_t>(50 * reach_->at(c, r)) : 0;
        }
}

void GroundTextures::paint(const Region& part) {
    const int stride = litMap_.stride(), f = level_.coverFactor;
    const auto first = [stride](int v) { return (v + stride - 1) / stride; };
    const Region r{first(part.x0), first(part.z0), first(part.x1), first(part.z1)};
    if (r.empty()) return;
    Raster<uint8_t> out(r.width(), r.depth());
    if (paintedNow_.reach) {
        paintReach(r, out);
        return upload(r, out);
    }
    const Region cover = Region{part.x0 * f, part.z0 * f, (part.x1 - 1) * f + 1, (part.z1 - 1) * f + 1};
    std::vector<Raster<uint8_t>> rasters(level_.layers.size(), Raster<uint8_t>(cover.width(), cover.depth()));
    std::vector<View<uint8_t>> planes;
    for (auto& p : rasters) planes.push_back(p.view());
    readWeights(level_, cover, planes);
    for (int z = 0; z < r.depth(); ++z)
        for (int x = 0; x < r.width(); ++x) {
            unsigned sum = 0;
            for (size_t k = 0; k < planes.size(); ++k)
                if (paintedNow_.layers >> k & 1)
                    sum += planes[k].at((r.x0 + x) * stride * f - cover.x0, (r.z0 + z) * stride * f - cover.z0);
            out.at(x, z) = static_cast<uint8_t>(sum);
        }
    upload(r, out);
}

void GroundTextures::upload(const Region& r, const Raster<uint8_t>& out) const {
    glPixelStorei(GL_UNPACK_ROW_LENGTH, 0);
    glPixelStorei(GL_UNPACK_ALIGNMENT, 1);
    glBindTexture(GL_TEXTURE_2D, painted_);
    glTexSubImage2D(GL_TEXTURE_2D, 0, r.x0, r.z0, r.width(), r.depth(), GL_RED, GL_UNSIGNED_BYTE, out.view().data);
    glPixelStorei(GL_UNPACK_ALIGNMENT, 4);
}

// --- what is known of the ground ------------------------------------------------------------------------------------

bool GroundTextures::steepIn(const Region& ground) const {
    constexpr int b = Baked::kBlock;
    for (int z = ground.z0 / b; z <= (ground.z1 - 1) / b; ++z)
        for (int x = ground.x0 / b; x <= (ground.x1 - 1) / b; ++x)
            if (steep_.at(x, z)) return true;
    return false;
}

uint32_t GroundTextures::layersIn(const Region& ground) const {
    constexpr int b = NearWindow::kBlock;
    const Region r = ground.clipped(level_.bounds());
    uint32_t bits = 0;
    for (int z = r.z0 / b; z <= (r.z1 - 1) / b; ++z)
        for (int x = r.x0 / b; x <= (r.x1 - 1) / b; ++x) bits |= blockLayers_.at(x, z);
    return bits;
}

}  // namespace jam
