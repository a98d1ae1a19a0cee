// Where one works and looks: the station, the chosen layer, the cursor on the ground, the tape.
#pragma once

#include <glm/vec3.hpp>
#include <optional>
#include <QByteArray>
#include <QObject>
#include <vector>

namespace jam {

class Standpoint : public QObject {
    Q_OBJECT
public:
    using QObject::QObject;

    // The id of a station (stations/station.h).
    const QByteArray& station() const { return station_; }
    void setStation(const QByteArray& id) {
        if (id != station_) station_ = id, emit stationChanged();
    }
    // The id of the layer that is worked on.
    uint32_t layer() const { return layer_; }
    void setLayer(uint32_t id) {
        if (id != layer_) layer_ = id, emit layerChosen();
    }
    // The place on the ground under the cursor.
    const std::optional<glm::dvec3>& cursor() const { return cursor_; }
    void setCursor(const std::optional<glm::dvec3>& at) { cursor_ = at, emit cursorMoved(); }
    // The tape: none, one or two places on the ground.
    const std::vector<glm::dvec3>& tape() const { return tape_; }
    void setTape(std::vector<glm::dvec3> places) { tape_ = std::move(places), emit tapeMoved(); }

signals:
    void stationChanged();
    void layerChosen();
    void cursorMoved();
    void tapeMoved();

private:
    QByteArray station_ = "shape";
    uint32_t layer_ = 0;
    std::optional<glm::dvec3> cursor_;
    std::vector<glm::dvec3> tape_;
};

}  // namespace jam
