// The one object between core and widgets: it holds what is being worked on and turns changes into signals.
// Widgets ask it and tell it; they never talk to each other.
#pragma once

#include <QObject>
#include <QString>
#include <functional>
#include <glm/vec3.hpp>
#include <optional>

#include "stroke/stroker.h"
#include "level/history.h"
#include "survey/pyramid.h"

namespace jam {

enum class Station { layOut, shape, cover, light, handOver };

// A change of the level, and the heights that the ground it touches had and has.
struct News {
    Change change;
    HeightSpan heights;
};

class Session : public QObject {
    Q_OBJECT
public:
    // `what` names the first entry of the history.
    explicit Session(Level level, const QString& what = tr("Start"), QObject* parent = nullptr);

    // --- the level ---
    const Level& level() const { return level_; }
    const HeightPyramid& pyramid() const { return pyramid_; }
    const History& history() const { return history_; }
    const QString& path() const { return path_; }
    bool dirty() const { return history_.serial() != savedSerial_; }
    // Starts over with another level; an empty path means that it was never saved.
    void open(Level level, const QString& path, const QString& what);
    // Notes that the level with this history serial is now safe at `path`.
    void markSaved(const QString& path, uint64_t serial);

    // Makes one undo step of what `change` does to a copy of the level. Edits with the same `gesture` that follow
    // each other closely (turning a knob) become one step.
    void edit(const QString& what, const std::function<void(Level&)>& change, const QString& gesture = {});
    void undo();
    void redo();
    void stepTo(size_t place);

    // --- strokes ---
    // Begins with the present tool (inverted with Shift) at a place on the ground.
    void beginStroke(const glm::dvec3& at, float pressure, bool inverted);
    // Goes on at a place `seconds` after the beginning; the same place again lets the brush rest there.
    void continueStroke(const glm::dvec3& at, float pressure, double seconds);
    void endStroke();
    // Takes the stroke back.
    void cancelStroke();
    bool stroking() const { return stroker_.has_value(); }
    // The ground as it was when the stroke began: picking on it keeps the brush from running after itself.
    const Level& strokeGround() const { return stroking() ? history_.now() : level_; }
    const HeightPyramid& strokePyramid() const { return stroking() ? strokePyramid_ : pyramid_; }

    // --- tools ---
    Tool tool() const { return tool_; }
    void setTool(Tool tool);
    // Settings of the present tool; each tool remembers its own.
    const StrokeSettings& settings() const { return settings_[static_cast<size_t>(tool_)]; }
    // Applies a change to them and brings values into range.
    void changeSettings(const std::function<void(StrokeSettings&)>& change);
    uint32_t layer() const { return layer_; }
    void setLayer(uint32_t id);

    // --- where one works and looks ---
    Station station() const { return station_; }
    void setStation(Station station);
    const std::optional<glm::dvec3>& cursor() const { return cursor_; }
    void setCursor(const std::optional<glm::dvec3>& at);
    // Alt on the ground: takes the height (flatten) or the layer (cover) that lies there.
    void pick(const glm::dvec3& at);

signals:
    void opened();                   // another level altogether
    void changed(const News& news);  // samples of the level
    void edited();                   // the history, or anything about the level but its samples
    void toolChanged();
    void settingsChanged();
    void layerChosen();
    void stationChanged();
    void cursorMoved();
    void said(const QString& sentence);  // something to tell in passing

private:
    void show(const Level& level);
    void tell(const Change& change);
    void keepLayer();

    History history_;
    Level level_;            // what is seen: history's present level, or that plus the stroke in hand
    HeightPyramid pyramid_, strokePyramid_;
    QString path_;
    uint64_t savedSerial_ = 0;
    QString gesture_;
    qint64 gestureTime_ = 0;
    std::optional<Stroker> stroker_;
    Tool tool_ = Tool::raise;
    StrokeSettings settings_[kTools];
    uint32_t layer_ = 0;
    Station station_ = Station::shape;
    std::optional<glm::dvec3> cursor_;
};

// Name of a tool on the screen: "Raise".
QString toolTitle(Tool tool);

}  // namespace jam
