// The toolbox: the tool in hand, the settings of every tool, and how strokes are drawn. It knows no level.
#pragma once

#include <functional>
#include <QObject>

#include "tools/tool.h"

namespace jam {

// How a stroke is drawn: by hand, in one straight line, or along corners that are clicked one by one.
enum class StrokePath { free, straight, corners };

// What restore brings back.
enum class RestoreSource { startHeight, lastSave, step };

class Toolbox : public QObject {
    Q_OBJECT
public:
    explicit Toolbox(QObject* parent = nullptr);

    Tool tool() const { return tool_; }
    void setTool(Tool tool);
    // Makes every brush fit a view that is so many metres wide on the ground: seen at once, and seen to work.
    void fit(double viewMetres);
    // Settings of the present tool; each tool remembers its own.
    const StrokeSettings& settings() const { return settingsOf(tool_); }
    const StrokeSettings& settingsOf(Tool tool) const { return settings_[static_cast<size_t>(tool)]; }
    // Applies a change to those of the present tool and brings values into range.
    void changeSettings(const std::function<void(StrokeSettings&)>& change);
    // Takes over settings of any tool, as they were kept.
    void adoptSettings(const StrokeSettings& settings);
    // When shared, all tools have the same radius, falloff, tip, spacing, flow and limits.
    bool shared() const { return shared_; }
    void setShared(bool shared);

    const Mirror& mirror() const { return mirror_; }
    void setMirror(const Mirror& mirror);
    const Pressure& pen() const { return pen_; }
    void setPen(const Pressure& pen);
    StrokePath path() const { return path_; }
    void setPath(StrokePath path);
    RestoreSource restoreSource() const { return restoreSource_; }
    uint64_t restoreSerial() const { return restoreSerial_; }
    // RestoreSource::step: the history entry with this serial.
    void setRestoreSource(RestoreSource source, uint64_t serial = 0);

signals:
    void toolChanged();
    void settingsChanged();  // also after another tool

private:
    Tool tool_ = Tool::raise;
    StrokeSettings settings_[kTools];
    bool shared_ = false;
    Mirror mirror_;
    Pressure pen_;
    StrokePath path_ = StrokePath::free;
    RestoreSource restoreSource_ = RestoreSource::startHeight;
    uint64_t restoreSerial_ = 0;
};

// Name of a tool on the screen: "Raise", "Rain wash".
QString toolTitle(Tool tool);

}  // namespace jam
