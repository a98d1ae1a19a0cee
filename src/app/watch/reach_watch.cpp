#include "watch/reach_watch.h"

#include "workplace/document.h"

namespace jam {

namespace {

constexpr int kRestMs = 120;

// The ground of larger levels is looked at again for a way, instead of being kept for it: it takes 11 bytes a sample.
constexpr long long kMostKept = 2049LL * 2049;

// Without the ground, but for what is told of it.
std::shared_ptr<const Reach> lighter(Reach reach) {
    auto bare = std::make_shared<ReachGround>();
    const ReachGround& g = *reach.ground;
    bare->body = g.body;
    bare->columns = g.columns, bare->rows = g.rows, bare->stride = g.stride;
    bare->levelColumns = g.levelColumns, bare->levelRows = g.levelRows;
    bare->spacing = g.spacing, bare->originX = g.originX, bare->originZ = g.originZ;
    reach.ground = bare;
    return std::make_shared<const Reach>(std::move(reach));
}

}  // namespace

ReachWatch::ReachWatch(Document& document, QObject* parent)
    : QObject(parent), document_(document), rested_(tr("Looking for ways"), kRestMs, [this] { return begin(); }) {
    document.on(About::samples | About::waters | About::spots | About::dress, &rested_, &WhenRested::later);
    connect(&rested_, &WhenRested::failed, this, &ReachWatch::failed);
    rested_.later();
}

void ReachWatch::askWay(uint32_t from, uint32_t to) {
    if (from == from_ && to == to_) return;
    from_ = from, to_ = to;
    way_.reset();
    emit wayFound();
    if (from && to) rested_.later();
}

// A level without spots has nothing to tell.
void ReachWatch::forget() {
    if (!reach_) return;
    reach_.reset();
    level_.reset();
    way_.reset();
    emit found();
    emit wayFound();
}

WhenRested::Job ReachWatch::begin() {
    if (document_.stroking()) {
        rested_.later();
        return {};
    }
    if (document_.level().spots.empty()) {
        forget();
        return {};
    }
    return [this, now = std::make_shared<const Level>(document_.level()), before = level_, reach = reach_, from = from_,
            to = to_](const Context& context) mutable -> WhenRested::Found {
        std::shared_ptr<const ReachGround> ground = reach ? reach->ground : nullptr;
        const Spot *a = now->spot(from), *b = now->spot(to);
        if (!reach || !sameForBodies(*now, *before) || (a && b && ground->nodes.width() == 0)) {
            Reach found = surveyReach(*now, bodyOf(*now), context);
            ground = found.ground;
            const bool large = static_cast<long long>(ground->columns) * ground->rows > kMostKept;
            reach = large ? lighter(std::move(found)) : std::make_shared<const Reach>(std::move(found));
        }
        std::shared_ptr<const Way> way;
        if (a && b && !context.cancelled())
            if (auto found = wayBetween(*now, *ground, a->x, a->z, b->x, b->z, context))
                way = std::make_shared<const Way>(std::move(*found));
        return [this, now, reach, way, from, to] {
            const bool other = reach != reach_;
            reach_ = reach;
            level_ = now;
            if (other) emit found();
            if (from == from_ && to == to_) way_ = way, emit wayFound();
        };
    };
}

}  // namespace jam
