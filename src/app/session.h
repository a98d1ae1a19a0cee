// The one object between core and widgets: it holds what is being worked on and turns changes into signals.
// Widgets ask it and tell it; they never talk to each other.
#pragma once

#include <QObject>
#include <QString>
#include <functional>
#include <glm/vec3.hpp>
#include <memory>
#include <optional>
#include <vector>

#include "stroke/stroker.h"
#include "tools/tool.h"
#include "level/history.h"
#include "survey/pyramid.h"

namespace jam {

enum class Station { layOut, shape, cover, light, handOver };

// How a stroke is drawn: by hand, in one straight line, or along corners that are clicked one by one.
enum class StrokePath { free, straight, corners };

// What restore brings back.
enum class RestoreSource { startHeight, lastSave, step };

// A change of the level as it is seen. Spots are the few places of the ground that it touches, each with the heights
// that the ground there had and has.
struct News {
    struct Spot {
        Region ground;
        HeightSpan heights;
    };
    Change change;
    std::vector<Spot> spots;
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

    // --- seeing another level in place of the present one ---
    // Shows a level without making it part of the history, such as what work on the whole ground would do.
    void showPreview(Level level);
    bool previewing() const { return preview_ != nullptr; }
    // Makes the preview an undo step, or lets it go.
    void keepPreview(const QString& what);
    void dropPreview();
    // While it is on, the ground is shown as it was: without the preview, at the last save, or one step before.
    // Says what is shown, or why nothing is.
    QString peek(bool on);
    bool peeking() const { return peeking_; }
    // Whether peeking shows the last save; otherwise the step before.
    bool peeksAtSave() const { return peeksAtSave_; }
    void setPeeksAtSave(bool save) { peeksAtSave_ = save; }

    // --- strokes ---
    // Begins with the present tool (inverted with Shift) at a place on the ground.
    void beginStroke(const glm::dvec3& at, float pressure, bool inverted);
    // Goes on at a place `seconds` after the beginning; the same place again lets the brush rest there.
    void continueStroke(const glm::dvec3& at, float pressure, double seconds);
    void endStroke();
    // Takes the stroke back.
    void cancelStroke();
    // A whole stroke along places on the ground at once: straight strokes and lines of clicks.
    void strokeAlong(const std::vector<glm::dvec3>& places, float pressure, bool inverted);
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
    // What a stroke begun now would work with: the settings with mirror and pen.
    StrokeSettings strokeSettings() const;
    // Settings of any tool, for keeping them from one start to the next.
    const StrokeSettings& settingsOf(Tool tool) const { return settings_[static_cast<size_t>(tool)]; }
    void adoptSettings(const StrokeSettings& settings);
    // When shared, all tools have the same radius, falloff, tip, spacing, flow and limits.
    bool shared() const { return shared_; }
    void setShared(bool shared);
    const Mirror& mirror() const { return mirror_; }
    void setMirror(const Mirror& mirror);
    const Pressure& pen() const { return pen_; }
    void setPen(const Pressure& pen);
    StrokePath way() const { return way_; }
    void setWay(StrokePath way);
    RestoreSource restoreSource() const { return restoreSource_; }
    uint64_t restoreSerial() const { return restoreSerial_; }
    // RestoreSource::step: the history entry with this serial.
    void setRestoreSource(RestoreSource source, uint64_t serial = 0);
    // The present tool is changed to the preset's, with its settings.
    void applyPreset(const StrokeSettings& settings);

    uint32_t layer() const { return layer_; }
    void setLayer(uint32_t id);

    // --- where one works and looks ---
    Station station() const { return station_; }
    void setStation(Station station);
    const std::optional<glm::dvec3>& cursor() const { return cursor_; }
    void setCursor(const std::optional<glm::dvec3>& at);
    // The tape: none, one or two places on the ground.
    const std::vector<glm::dvec3>& tape() const { return tape_; }
    void setTape(std::vector<glm::dvec3> places);
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
    void tapeMoved();
    void said(const QString& sentence);  // something to tell in passing

private:
    void show(const Level& level);
    void tell(const Change& change);
    void keepLayer();
    void followGround(Level& next) const;
    bool mayStroke(const StrokeSettings& settings);
    std::shared_ptr<const Level> restoreReference() const;
    const Level* stepLevel(uint64_t serial) const;

    History history_;
    Level level_;            // what is seen: history's present level, or that plus the stroke in hand
    HeightPyramid pyramid_, strokePyramid_;
    QString path_;
    uint64_t savedSerial_ = 0;
    std::shared_ptr<const Level> saved_, preview_;
    bool peeking_ = false, peeksAtSave_ = false;
    QString gesture_;
    qint64 gestureTime_ = 0;
    std::optional<Stroker> stroker_;
    Tool tool_ = Tool::raise;
    StrokeSettings settings_[kTools];
    bool shared_ = false;
    Mirror mirror_;
    Pressure pen_;
    StrokePath way_ = StrokePath::free;
    RestoreSource restoreSource_ = RestoreSource::startHeight;
    uint64_t restoreSerial_ = 0;
    uint32_t layer_ = 0;
    Station station_ = Station::shape;
    std::optional<glm::dvec3> cursor_;
    std::vector<glm::dvec3> tape_;
};

// Name of a tool on the screen: "Raise", "Rain wash".
QString toolTitle(Tool tool);

}  // namespace jam
