#include "reach_watch.h"

#include <sys/resource.h>
#include <unistd.h>

#include "document.h"
#include "level/changes.h"

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
    bare->spacing = g.spacing, bare->originX = g.originX, bare->originZ = g.originZ;
    reach.ground = bare;
    return std::make_shared<const Reach>(std::move(reach));
}

// Whether a body goes otherwise in one than in the other.
bool sameForBodies(const Level& a, const Level& b) {
    if (!sameRaster(a, b)) return false;
    const Change c = changesBetween(a, b);
    return c.ground.empty() && c.gaps.empty() && c.water.empty() && !c.spots;
}

}  // namespace

ReachWatch::ReachWatch(Document& document, QObject* parent) : QObject(parent), document_(document) {
    rest_.setSingleShot(true);
    rest_.setInterval(kRestMs);
    connect(&rest_, &QTimer::timeout, this, &ReachWatch::start);
    for (const auto signal : {&Document::replaced, &Document::watersChanged, &Document::spotsChanged})
        connect(&document, signal, this, &ReachWatch::later);
    connect(&document, &Document::seen, this, &ReachWatch::later);
    later();
}

ReachWatch::~ReachWatch() {
    cancel_ = true;
    if (thread_.joinable()) thread_.join();
}

void ReachWatch::askWay(uint32_t from, uint32_t to) {
    if (from == from_ && to == to_) return;
    from_ = from, to_ = to;
    way_.reset();
    emit wayFound();
    if (from && to) later();
}

void ReachWatch::later() {
    cancel_ = true;
    rest_.start();
}

void ReachWatch::start() {
    if (running_) {
        again_ = true;
        return;
    }
    if (document_.stroking()) return later();
    const Level& level = document_.level();
    if (level.spots.empty()) {
        if (!reach_) return;
        reach_.reset();
        level_.reset();
        way_.reset();
        emit found();
        return emit wayFound();
    }
    running_ = true;
    cancel_ = false;
    thread_ = std::thread(
        [this, now = std::make_shared<const Level>(level), before = level_, known = reach_, from = from_, to = to_] {
            // The hand comes first.
            setpriority(PRIO_PROCESS, static_cast<id_t>(gettid()), 10);
            Context context;
            context.cancel = &cancel_;
            std::shared_ptr<const Reach> reach = known;
            std::shared_ptr<const ReachGround> ground = known ? known->ground : nullptr;
            const Spot *a = now->spot(from), *b = now->spot(to);
            if (!known || !before || !sameForBodies(*now, *before) || (a && b && ground->nodes.width() == 0)) {
                Reach found = surveyReach(*now, bodyOf(*now), context);
                ground = found.ground;
                const bool large = static_cast<long long>(ground->columns) * ground->rows > kMostKept;
                reach = large ? lighter(std::move(found)) : std::make_shared<const Reach>(std::move(found));
            }
            std::shared_ptr<const Way> way;
            if (a && b && !cancel_)
                if (auto found = wayBetween(*now, *ground, a->x, a->z, b->x, b->z, context))
                    way = std::make_shared<const Way>(std::move(*found));
            QMetaObject::invokeMethod(
                this,
                [this, now, reach, way, from, to] {
                    thread_.join();
                    running_ = false;
                    const bool whole = !cancel_;
                    if (whole) {
                        const bool other = reach != reach_;
                        reach_ = reach;
                        level_ = now;
                        if (other) emit found();
                        if (from == from_ && to == to_) way_ = way, emit wayFound();
                    }
                    if (std::exchange(again_, false) || !whole) rest_.start();
                },
                Qt::QueuedConnection);
        });
}

}  // namespace jam
