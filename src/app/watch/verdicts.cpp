#include "watch/verdicts.h"

#include <algorithm>

#include "level/ground.h"
#include "watch/reach_watch.h"
#include "watch/surveyor.h"
#include "workplace/document.h"

namespace jam {

Verdicts::Verdicts(Document& document, Surveyor& surveyor, ReachWatch& reach, QObject* parent)
    : QObject(parent), document_(document), surveyor_(surveyor), reach_(reach) {
    for (const Check* c : checks()) verdicts_.push_back({c, {}, {}});
    connect(&surveyor, &Surveyor::found, this, [this] {
        const bool first = !looked_[static_cast<size_t>(Check::Looks::figures)];
        follow(Check::Looks::figures);
        // Reach may have been known before there were figures at all.
        if (first && reach_.reach()) follow(Check::Looks::reach);
    });
    connect(&reach, &ReachWatch::found, this, [this] { follow(Check::Looks::reach); });
}

void Verdicts::follow(Check::Looks looks) {
    if (!surveyor_.findings()) return;
    const Level& level = document_.level();
    std::optional<Level>& looked = looked_[static_cast<size_t>(looks)];
    const Surveyed surveyed{level, *surveyor_.findings(), reach_.reach().get()};
    const Change change = looked ? changesBetween(level, *looked) : Change{};
    for (Verdict& v : verdicts_) {
        // What reach tells may be other than before, although nothing changed: it comes later than the level.
        if (v.check->looks != looks || (looks == Check::Looks::figures && looked && !v.check->stale(change))) continue;
        v.found = v.check->find(surveyed);
        v.brief = v.found.empty() ? QString() : QString::fromStdString(v.check->brief(surveyed, v.found));
    }
    looked = level;
    emit changed();
}

std::vector<Verdicts::Verdict> Verdicts::all(const QByteArray& station) const {
    std::vector<Verdict> out;
    for (Verdict v : verdicts_) {
        if (!station.isEmpty() && station != v.check->station) continue;
        std::erase_if(v.found, [this](const Finding& f) {
            return std::any_of(f.things.begin(), f.things.end(),
                               [this](const Thing& t) { return !has(document_.level(), t); });
        });
        if (!v.found.empty()) out.push_back(std::move(v));
    }
    return out;
}

std::optional<Verdicts::Verdict> Verdicts::first(const QByteArray& station, Check::Weight weight) const {
    for (Verdict& v : all(station))
        if (v.check->weight == weight) return std::move(v);
    return std::nullopt;
}

std::optional<glm::dvec3> Verdicts::place(const QByteArray& station) const {
    const std::optional<Verdict> v = first(station, Check::Weight::warns);
    if (!v || !v->found.front().at) return std::nullopt;
    const auto [x, z] = *v->found.front().at;
    return glm::dvec3(x, altitudeAt(document_.level(), x, z), z);
}

}  // namespace jam
