// Where one works and looks: the station, the chosen layer, the cursor on the ground, the tape.
#pragma once

#include <algorithm>
#include <glm/vec3.hpp>
#include <optional>
#include <QByteArray>
#include <QObject>
#include <vector>

#include "dress/plantings.h"
#include "fence/fence.h"
#include "render/relief.h"

namespace jam {

// How the ground's relief is lifted for the eye, and when.
struct ReliefChoice {
    float lift = 0.7f;     // share, [0, 1]
    bool always = false;   // at every station, not only while shaping
    bool oneTone = false;  // the ground without its textures
    bool operator==(const ReliefChoice&) const = default;
};

// How a press on the ground draws a fence; none: it does not.
enum class FenceWay { none, rectangle, lasso, brush, line, connected };

// What a press at Dress does: the brush, putting one down, choosing what stands.
enum class DressWay { brush, put, line, choose };

class Standpoint : public QObject {
    Q_OBJECT
public:
    using QObject::QObject;

    // The id of a station (house/station.h).
    const QByteArray& station() const { return station_; }
    void setStation(const QByteArray& id) {
        if (id != station_) station_ = id, emit stationChanged();
    }
    // The id of the layer that is worked on.
    uint32_t layer() const { return layer_; }
    void setLayer(uint32_t id) {
        if (id != layer_) layer_ = id, emit layerChosen();
    }
    // The id of the kind that is worked on, 0 for none.
    uint32_t kind() const { return kind_; }
    void setKind(uint32_t id) {
        if (id != kind_) kind_ = id, emit kindChosen();
    }
    DressWay dressWay() const { return dressWay_; }
    void setDressWay(DressWay way) {
        if (way == dressWay_) return;
        dressWay_ = way;
        if (way != DressWay::choose) setChosen({});
        emit dressWayChosen();
    }
    // What is chosen of what stands, as it stood then.
    const std::vector<OneStanding>& chosen() const { return chosen_; }
    void setChosen(std::vector<OneStanding> all) {
        if (all != chosen_) chosen_ = std::move(all), emit chosenChanged();
    }
    // The place on the ground under the cursor.
    const std::optional<glm::dvec3>& cursor() const { return cursor_; }
    void setCursor(const std::optional<glm::dvec3>& at) { cursor_ = at, emit cursorMoved(); }
    // The place on the ground in the middle of the view; what is told while the cursor is elsewhere.
    void setMiddle(const std::optional<glm::dvec3>& at) {
        if (at == middle_) return;
        middle_ = at;
        if (!cursor_) emit cursorMoved();
    }
    const std::optional<glm::dvec3>& seen() const { return cursor_ ? cursor_ : middle_; }
    // The tape: none, one or two places on the ground.
    const std::vector<glm::dvec3>& tape() const { return tape_; }
    void setTape(std::vector<glm::dvec3> places) { tape_ = std::move(places), emit tapeMoved(); }

    const ReliefChoice& relief() const { return relief_; }
    void setRelief(const ReliefChoice& choice) {
        if (choice != relief_) relief_ = choice, emit reliefChosen();
    }
    // What of it counts at the present station.
    ReliefChoice reliefHere() const {
        if (relief_.always || station_ == "shape") return relief_;
        return {std::min(relief_.lift, kUsualLift), false, false};
    }

    FenceWay fenceWay() const { return fenceWay_; }
    void setFenceWay(FenceWay way) {
        if (way != fenceWay_) fenceWay_ = way, emit fenceWayChosen();
    }
    // How what is drawn meets the fence there is.
    FenceJoin fenceJoin() const { return fenceJoin_; }
    void setFenceJoin(FenceJoin join) { fenceJoin_ = join; }
    // Whether the ground inside the fence is hatched.
    bool fenceTint() const { return fenceTint_; }
    void setFenceTint(bool tint) {
        if (tint != fenceTint_) fenceTint_ = tint, emit fenceTintChosen();
    }

    // Whether presses on the ground work on courses, which one is chosen (0: none, a press begins another), and which
    // of its posts.
    bool coursing() const { return coursing_; }
    void setCoursing(bool on) {
        if (on != coursing_) coursing_ = on, emit courseChosen();
    }
    uint32_t course() const { return course_; }
    int post() const { return post_; }
    void setCourse(uint32_t id, int post = 0) {
        if (id == course_ && post == post_) return;
        course_ = id, post_ = post;
        emit courseChosen();
    }

    // Whether the width, shoulders and banking of one post are those of all of its course.
    bool postsAlike() const { return postsAlike_; }
    void setPostsAlike(bool alike) { postsAlike_ = alike; }

    // The pool or stream that is chosen, 0 for none; and whether a course that is drawn becomes a stream's.
    uint32_t water() const { return water_; }
    void setWater(uint32_t id) {
        if (id != water_) water_ = id, emit waterChosen();
    }
    // The spot that is chosen, 0 for none.
    uint32_t spot() const { return spot_; }
    void setSpot(uint32_t id) {
        if (id != spot_) spot_ = id, emit spotChosen();
    }
    bool streaming() const { return streaming_; }
    void setStreaming(bool on) { streaming_ = on; }

    // Whether new spots come with even ground under them.
    bool spotsOnPads() const { return spotsOnPads_; }
    void setSpotsOnPads(bool on) { spotsOnPads_ = on; }

signals:
    void courseChosen();
    void waterChosen();
    void spotChosen();
    void fenceWayChosen();
    void fenceTintChosen();
    void reliefChosen();
    void stationChanged();
    void layerChosen();
    void kindChosen();
    void dressWayChosen();
    void chosenChanged();
    void cursorMoved();
    void tapeMoved();

private:
    QByteArray station_ = "shape";
    uint32_t layer_ = 0, kind_ = 0;
    DressWay dressWay_ = DressWay::brush;
    std::vector<OneStanding> chosen_;
    std::optional<glm::dvec3> cursor_, middle_;
    std::vector<glm::dvec3> tape_;
    ReliefChoice relief_;
    FenceWay fenceWay_ = FenceWay::none;
    FenceJoin fenceJoin_ = FenceJoin::replace;
    bool fenceTint_ = true;
    bool coursing_ = false, postsAlike_ = true;
    uint32_t course_ = 0;
    int post_ = 0;
    uint32_t water_ = 0, spot_ = 0;
    bool streaming_ = false, spotsOnPads_ = false;
};

}  // namespace jam
