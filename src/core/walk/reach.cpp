#include "walk/reach.h"

#include <algorithm>
#include <cmath>
#include <set>
#include <span>

#include "base/parallel.h"
#include "dress/plantings.h"
#include "level/changes.h"
#include "level/opening.h"
#include "walk/flight_rows.h"
#include "walk/reach_ground.h"

namespace jam {

namespace {

constexpr uint32_t kNoNode = ReachGround::kNoNode;

using Pair = std::pair<uint32_t, uint32_t>;  // from node, to node

// Links that were found, without most of those that neighbours find again.
class Links {
public:
    Links() : last_(1024, Pair{kNoNode, kNoNode}) {}
    void add(uint32_t from, uint32_t to) {
        Pair& last = last_[(from * 2654435761u ^ to * 40503u) >> 7 & 1023];
        if (last == Pair{from, to}) return;
        last = {from, to};
        found_.push_back(last);
    }
    std::vector<Pair> take() { return std::move(found_); }

private:
    std::vector<Pair> last_, found_;
};

// Links by where they begin, or backwards by where they end.
class LinkTable {
public:
    void make(uint32_t nodes, const std::vector<std::vector<Pair>>& links, bool back) {
        begins_.assign(nodes + size_t{1}, 0);
        const auto each = [&](auto f) {
            for (const auto& some : links)
                for (const auto& [from, to] : some) back ? f(to, from) : f(from, to);
        };
        each([&](uint32_t at, uint32_t) { ++begins_[at]; });
        uint32_t before = 0;
        for (uint32_t& b : begins_) b = std::exchange(before, before + b);
        to_.resize(before);
        // Each place moves on to where the next one's begin, and is one too far on when all are in.
        each([&](uint32_t at, uint32_t to) { to_[begins_[at]++] = to; });
        std::copy_backward(begins_.begin(), begins_.end() - 1, begins_.end());
        begins_.front() = 0;
    }
    std::span<const uint32_t> from(uint32_t node) const {
        return {to_.data() + begins_[node], to_.data() + begins_[node + 1]};
    }

private:
    std::vector<uint32_t> begins_, to_;
};

// Pieces and steep samples, and the ways between them. Steep samples lead to every neighbour that lies no higher, which
// is looked up and not kept.
class Graph {
public:
    Graph(const Level& level, ReachGround& g) : level_(level), g_(g) {}

    bool make(const Context& context);
    // What all nodes that `marks` mark lead to gets those marks too; or, backwards, what leads to them.
    void spread(std::vector<uint64_t>& marks, bool back, const Context& context) const;
    uint32_t nodes() const { return g_.pieces + static_cast<uint32_t>(steep_.size()); }
    // Whether a body can leave the level from a sample.
    bool leaves(int c, int r) const;

private:
    struct Place {
        int c, r;
    };
    void nameSteep();
    void link(const Context& context);

    const Level& level_;
    ReachGround& g_;
    std::vector<Place> steep_;  // where they lie
    LinkTable on_, back_;       // what is kept: from pieces to anything, from steep samples to pieces
};

void Graph::nameSteep() {
    for (int r = 0; r < g_.rows; ++r)
        for (int c = 0; c < g_.columns; ++c) {
            uint32_t& node = g_.nodes.at(c, r);
            uint8_t& kind = g_.kinds.at(c, r);
            if (node != kNoNode) {
                kind = ReachGround::kFirm;
                continue;
            }
            if (kind == ReachGround::kNone) continue;
            // The bottom of a pit can be stood in, however narrow.
            bool lower = g_.byBorder(c, r);
            g_.eachBeside(c, r, [&](int x, int z) {
                lower = lower || g_.kinds.at(x, z) == ReachGround::kNone ||
                        g_.plainBrow(c, r, x, z) <= g_.heights.at(c, r);
            });
            if (!lower) kind = ReachGround::kFirm, node = g_.pieces++;
        }
    for (int r = 0; r < g_.rows; ++r)
        for (int c = 0; c < g_.columns; ++c)
            if (g_.kinds.at(c, r) == ReachGround::kSteep) {
                g_.nodes.at(c, r) = g_.pieces + static_cast<uint32_t>(steep_.size());
                steep_.push_back({c, r});
            }
}

void Graph::link(const Context& context) {
    const Flights flights(g_.body, g_.spacing);
    constexpr int kBand = 16;
    const int bands = (g_.rows + kBand - 1) / kBand;
    std::vector<std::vector<Pair>> found(static_cast<size_t>(bands));
    parallelFor(bands, 1, [&](int first, int end) {
        for (int band = first; band < end && !context.cancelled(); ++band) {
            const int top = band * kBand, under = std::min(top + kBand, g_.rows);
            FlightRows rows(flights, g_, top, under);
            Links links;
            rows.each([&](int c, int r, uint32_t to) { links.add(g_.nodes.at(c, r), to); });
            found[static_cast<size_t>(band)] = links.take();
        }
    });
    if (context.cancelled()) return;
    parallelFor(2, 1, [&](int first, int end) {
        for (int i = first; i < end; ++i) (i ? back_ : on_).make(nodes(), found, i != 0);
    });
}

bool Graph::make(const Context& context) {
    g_.pieces = connectedGround(g_.cells, g_.nodes);
    nameSteep();
    context.report(0.4);
    link(context);
    return !context.cancelled();
}

void Graph::spread(std::vector<uint64_t>& marks, bool back, const Context& context) const {
    std::vector<uint32_t> front;
    std::vector<uint8_t> waits(marks.size(), 0);
    for (uint32_t i = 0; i < marks.size(); ++i)
        if (marks[i]) front.push_back(i), waits[i] = 1;
    const LinkTable& links = back ? back_ : on_;
    for (size_t next = 0; next < front.size(); ++next) {
        if ((next & 0xffff) == 0) {
            if (context.cancelled()) return;
            // What has been dealt with needs no room.
            front.erase(front.begin(), front.begin() + static_cast<ptrdiff_t>(next));
            next = 0;
            if (front.empty()) break;
        }
        const uint32_t node = front[next];
        waits[node] = 0;
        const auto reach = [&](uint32_t to) {
            const uint64_t with = marks[to] | marks[node];
            if (with == marks[to]) return;
            marks[to] = with;
            if (!std::exchange(waits[to], 1)) front.push_back(to);
        };
        for (const uint32_t to : links.from(node)) reach(to);
        if (node < g_.pieces) continue;
        const Place& p = steep_[node - g_.pieces];
        const float height = g_.heights.at(p.c, p.r);
        g_.eachBeside(p.c, p.r, [&](int x, int z) {
            const uint32_t to = g_.nodes.at(x, z);
            if (to == kNoNode || to < g_.pieces) return;
            if (back ? g_.brow(x, z, p.c, p.r) <= g_.heights.at(x, z) : g_.brow(p.c, p.r, x, z) <= height) reach(to);
        });
    }
}

bool Graph::leaves(int c, int r) const {
    if (g_.byBorder(c, r)) return true;
    bool coast = false;
    g_.eachBeside(c, r, [&](int x, int z) {
        const int lc = g_.sampleColumn(x), lr = g_.sampleRow(z);
        coast = coast || (g_.kinds.at(x, z) == ReachGround::kNone && level_.noLand.at(lc, lr) > kGapEdge &&
                          level_.noLand.at(lc, lr) >= openingSample(level_, lc, lr));
    });
    return coast;
}

// --- telling of it ------------------------------------------------------------------------------------------------

ReachPlace placeAt(const ReachGround& g, int c, int r, double size) {
    return {g.xOf(c), static_cast<double>(g.heights.at(c, r)), g.zOf(r), size, {}, {}, {}};
}

// Samples that `in` holds, in groups of neighbours no farther apart than `reach`: f(samples of one group).
template <class In, class F>
void eachGroup(const ReachGround& g, int reach, In in, F f) {
    Raster<uint8_t> seen(g.columns, g.rows, 0);
    std::vector<std::array<int, 2>> group;
    for (int r = 0; r < g.rows; ++r)
        for (int c = 0; c < g.columns; ++c) {
            if (seen.at(c, r) || !in(c, r)) continue;
            group.assign(1, {c, r});
            seen.at(c, r) = 1;
            for (size_t i = 0; i < group.size(); ++i)
                for (int z = std::max(group[i][1] - reach, 0); z <= std::min(group[i][1] + reach, g.rows - 1); ++z)
                    for (int x = std::max(group[i][0] - reach, 0); x <= std::min(group[i][0] + reach, g.columns - 1);
                         ++x)
                        if (!seen.at(x, z) && in(x, z)) seen.at(x, z) = 1, group.push_back({x, z});
            f(group);
        }
}

// The sample of a group that lies nearest to its middle.
std::array<int, 2> middleOf(const std::vector<std::array<int, 2>>& group) {
    double x = 0, z = 0, away = 1e30;
    for (const auto& s : group) x += s[0], z += s[1];
    x /= static_cast<double>(group.size()), z /= static_cast<double>(group.size());
    std::array<int, 2> best = group.front();
    for (const auto& s : group)
        if (const double d = (s[0] - x) * (s[0] - x) + (s[1] - z) * (s[1] - z); d < away) away = d, best = s;
    return best;
}

void largestFirst(std::vector<ReachPlace>& places) {
    std::stable_sort(places.begin(), places.end(), [](const ReachPlace& a, const ReachPlace& b) {
        return std::pair(a.spots.size(), a.size) > std::pair(b.spots.size(), b.size);
    });
}

// `stand`: the ids of spots and the nodes that they stand on.
std::vector<ReachPlace> areasOf(const Reach& reach, const std::vector<Pair>& stand, Reached which, double least) {
    const ReachGround& g = *reach.ground;
    std::vector<ReachPlace> places;
    const double each = g.spacing * g.spacing;
    eachGroup(
        g, 1,
        [&](int c, int r) {
            return reach.classes.at(c, r) == static_cast<uint8_t>(which) && g.kinds.at(c, r) == ReachGround::kFirm;
        },
        [&](const auto& group) {
            const double size = each * static_cast<double>(group.size());
            std::vector<uint32_t> spots;
            for (const auto& [id, node] : stand)
                if (std::any_of(group.begin(), group.end(),
                                [&, node = node](const auto& s) { return g.nodes.at(s[0], s[1]) == node; }))
                    spots.push_back(id);
            if (size < least && spots.empty()) return;
            // Ground that nobody gets to and that lies by the level's border is what walls it in.
            const auto border = [&](const std::array<int, 2>& s) { return g.byBorder(s[0], s[1]); };
            if (spots.empty() && which == Reached::never && std::any_of(group.begin(), group.end(), border)) return;
            const auto [c, r] = middleOf(group);
            places.push_back(placeAt(g, c, r, size));
            places.back().spots = std::move(spots);
        });
    largestFirst(places);
    return places;
}

void findWaysOut(const Graph& graph, const std::vector<uint64_t>& there, uint64_t starts, Reach& reach) {
    const ReachGround& g = *reach.ground;
    eachGroup(
        g, 3,
        [&](int c, int r) {
            const uint32_t node = g.nodes.at(c, r);
            return node != kNoNode && (there[node] & starts) && graph.leaves(c, r);
        },
        [&](const auto& group) {
            const auto [c, r] = middleOf(group);
            ReachPlace p = placeAt(g, c, r, g.spacing * static_cast<double>(group.size()));
            p.towards = r == 0               ? "north"
                        : c + 1 == g.columns ? "east"
                        : r + 1 == g.rows    ? "south"
                        : c == 0             ? "west"
                                             : "coast";
            for (const auto& s : group) p.samples.push_back({g.sampleColumn(s[0]), g.sampleRow(s[1])});
            reach.waysOut.push_back(std::move(p));
        });
    largestFirst(reach.waysOut);
}

// The level without kinds that block nobody and that none of those keeps off.
Level blocking(const Level& level) {
    const std::vector<bool> needed = withThoseKeptOff(
        level, [](const Kind& k) { return k.blocks != Blocks::nothing && !k.hidden; });
    Level bare = level;
    bare.kinds.clear();
    for (size_t i = 0; i < needed.size(); ++i)
        if (needed[i]) bare.kinds.push_back(level.kinds[i]);
    std::erase_if(bare.singles, [&](const Single& s) { return !bare.kind(s.kind); });
    return bare;
}

}  // namespace

bool sameForBodies(const Level& a, const Level& b) {
    if (!sameRaster(a, b)) return false;
    const Change c = changesBetween(blocking(a), blocking(b));
    return c.ground.empty() && c.gaps.empty() && c.water.empty() && !c.spots && c.kinds.empty() && c.plantings.empty();
}

const Body* bodyNamed(const Level& level, const std::string& name) {
    const auto called = [&](const Body& b) { return b.name == name; };
    if (const auto own = std::find_if(level.bodies.begin(), level.bodies.end(), called); own != level.bodies.end())
        return &*own;
    const auto shipped = std::find_if(kBodies.begin(), kBodies.end(), called);
    return shipped == kBodies.end() ? nullptr : &*shipped;
}

Body bodyOf(const Level& level) {
    const Body* chosen = bodyNamed(level, level.body);
    return chosen ? *chosen : kBodies[0];
}

std::optional<std::array<int, 2>> ReachGround::sampleUnder(double x, double z) const {
    const double cx = std::clamp((x - originX) / spacing, 0.0, columns - 1.0);
    const double cz = std::clamp((z - originZ) / spacing, 0.0, rows - 1.0);
    const int c = std::min(static_cast<int>(cx), columns - 2), r = std::min(static_cast<int>(cz), rows - 2);
    const bool upper = cx - c >= cz - r, stands = cells.at(c, r) & (upper ? 1 : 2);
    // Within a block there may be a wall between it and a corner.
    if (stride > 1 && !stands) return {};
    std::optional<std::array<int, 2>> best;
    double away = 1e30;
    for (int z0 = r; z0 <= r + 1; ++z0)
        for (int x0 = c; x0 <= c + 1; ++x0) {
            const bool other = upper ? x0 == c && z0 > r : x0 > c && z0 == r;  // a corner of the other triangle
            const double d = (x0 - cx) * (x0 - cx) + (z0 - cz) * (z0 - cz);
            if (nodes.at(x0, z0) != kNoNode && d < away && !(stands && other)) away = d, best = {x0, z0};
        }
    return best;
}

bool Reach::knows(uint32_t spot) const {
    return begins(spot) || std::any_of(pairs.begin(), pairs.end(), [&](const ReachPair& p) { return p.to == spot; });
}

bool Reach::begins(uint32_t spot) const { return std::find(starts.begin(), starts.end(), spot) != starts.end(); }

bool Reach::got(uint32_t spot) const {
    return begins(spot) ||
           std::any_of(starts.begin(), starts.end(), [&](uint32_t from) { return reaches(from, spot); });
}

bool Reach::reaches(uint32_t from, uint32_t to) const {
    return std::any_of(pairs.begin(), pairs.end(),
                       [&](const ReachPair& p) { return p.from == from && p.to == to && p.reached; });
}

std::array<int, 2> Reach::spotsReached() const {
    std::set<uint32_t> all(starts.begin(), starts.end());
    for (const ReachPair& p : pairs) all.insert(p.to);
    const auto count = std::count_if(all.begin(), all.end(), [&](uint32_t spot) { return got(spot); });
    return {static_cast<int>(count), static_cast<int>(all.size())};
}

Reach surveyReach(const Level& level, const Body& body, const Context& context, int mostSamples) {
    Reach reach;
    reach.body = body;
    auto ground = std::make_shared<ReachGround>();
    ReachGround& g = *ground;
    reach.ground = ground;
    if (!makeReachGround(level, body, mostSamples, context, g)) return reach;
    context.report(0.2);
    Graph graph(level, g);
    if (!graph.make(context)) return reach;
    context.report(0.7);
    std::vector<uint64_t> there(graph.nodes(), 0), onwards;
    std::vector<uint32_t> under;
    uint64_t starts = 0;
    for (size_t i = 0; i < level.spots.size(); ++i) {
        const Spot& s = level.spots[i];
        const auto at = g.sampleUnder(s.x, s.z);
        under.push_back(at ? g.nodes.at((*at)[0], (*at)[1]) : kNoNode);
        if (under.back() == kNoNode || under.back() >= g.pieces) reach.nowhere.push_back(s.id);
        if (under.back() != kNoNode) there[under.back()] |= uint64_t{1} << i;
        if (s.kind == "start") starts |= uint64_t{1} << i, reach.starts.push_back(s.id);
    }
    if (starts == 0 && !level.spots.empty()) starts = 1, reach.starts.push_back(level.spots.front().id);
    onwards = there;
    parallelFor(2, 1, [&](int first, int end) {
        for (int i = first; i < end; ++i) graph.spread(i ? onwards : there, i != 0, context);
    });
    if (context.cancelled()) return reach;
    for (size_t i = 0; i < level.spots.size(); ++i)
        for (size_t k = 0; k < level.spots.size(); ++k)
            if (i != k)
                reach.pairs.push_back(
                    {level.spots[i].id, level.spots[k].id, under[k] != kNoNode && (there[under[k]] >> i & 1) != 0});
    reach.classes = Raster<uint8_t>(g.columns, g.rows, static_cast<uint8_t>(Reached::nothing));
    if (level.spots.empty()) return reach;
    for (int r = 0; r < g.rows; ++r)
        for (int c = 0; c < g.columns; ++c) {
            const uint32_t node = g.nodes.at(c, r);
            if (node == kNoNode) continue;
            const bool firm = g.kinds.at(c, r) == ReachGround::kFirm;
            const Reached is = !(there[node] & starts)  ? firm ? Reached::never : Reached::nothing
                               : onwards[node] & starts ? Reached::both
                               : onwards[node]          ? Reached::oneWay
                                                        : Reached::trap;
            reach.classes.at(c, r) = static_cast<uint8_t>(is);
            reach.areas[static_cast<size_t>(is)] += g.spacing * g.spacing;
        }
    context.report(0.9);
    if (context.cancelled()) return reach;
    std::vector<Pair> stand;
    for (size_t i = 0; i < under.size(); ++i) stand.emplace_back(level.spots[i].id, under[i]);
    reach.pockets = areasOf(reach, stand, Reached::never, kLeastPocket);
    if (context.cancelled()) return reach;
    reach.traps = areasOf(reach, stand, Reached::trap, kLeastTrap);
    findWaysOut(graph, there, starts, reach);
    // Of those that nobody gets to, what stands on the ground may be to blame.
    const auto missed = [&](const Spot& s) { return reach.knows(s.id) && !reach.got(s.id); };
    if (!blocking(level).kinds.empty() && std::any_of(level.spots.begin(), level.spots.end(), missed)) {
        Level bare = level;
        bare.kinds.clear(), bare.singles.clear();
        const Reach without = surveyReach(bare, body, context, mostSamples);
        for (const Spot& s : level.spots)
            if (missed(s) && without.got(s.id)) reach.walledOff.push_back(s.id);
    }
    return reach;
}

}  // namespace jam
