// The clip in hand: where it lies, how it is to be set down, and its preview on the ground, which is worked out beside
// the window while it is moved. Setting it down is one step of the history.
#pragma once

#include <memory>
#include <QObject>

#include "clip/set_down.h"
#include "tasks/task.h"
#include "workplace/document.h"

namespace jam {

class Clips : public QObject {
    Q_OBJECT
public:
    explicit Clips(Document& document, QObject* parent = nullptr);

    // Whether presses on the ground work with clips.
    bool clipping() const { return clipping_; }
    void setClipping(bool on);

    // The clip that lies on the ground, or null; where it lies; how it is set down.
    const std::shared_ptr<const Level>& held() const { return held_; }
    const Placement& placement() const { return placement_; }
    const SetDownWish& wish() const { return wish_; }
    // Along this line it is repeated, `every` metres apart; empty for once, where it lies.
    const std::vector<MapPlace>& line() const { return line_; }
    double every() const { return every_; }
    // Whether presses on the ground draw that line.
    bool drawsLine() const { return drawsLine_; }
    void setDrawsLine(bool on) { drawsLine_ = on; }
    // Where it comes to lie. Errors: those of placesAlong().
    Result<std::vector<Placement>> places() const;

    // Takes a clip in place of the one in hand.
    void hold(std::shared_ptr<const Level> clip, const Placement& placement);
    void move(const Placement& placement);
    void change(const std::function<void(SetDownWish&)>& change);
    void setLine(std::vector<MapPlace> line);
    void setEvery(double metres);
    // Lets go of it; the ground is as it was.
    void putAway();
    // Makes a step of it, and lets go of it.
    void setDown();

    // Lifts what lies between two corners, or inside the fence, and holds it in its place; says why not.
    bool lift(const MapPlace& a, const MapPlace& b);
    bool liftFenced();
    // Asks whoever shows clips to take this one up: ground that comes from elsewhere, to be placed.
    void bring(std::shared_ptr<const Level> clip) { emit brought(std::move(clip)); }
    // The clip that was held last, for setting it down again.
    const std::shared_ptr<const Level>& last() const { return last_; }

    // Why it cannot be set down as it lies; empty when it can, or when that is not known yet.
    const QString& trouble() const { return trouble_; }

signals:
    void clippingChanged();
    void heldChanged();  // another one, or none
    void moved();        // its place, its line, its wish
    void brought(std::shared_ptr<const Level> clip);
    void lifted();  // it was lifted from the level just now
    void tried();   // the preview is there, or trouble() says why not
    void said(const QString& sentence);

private:
    // Whether courses hold ground over the chosen stratum, below which a clip would be cut off by them: its heights go
    // over them then, until the person says otherwise.
    bool underCourses() const;
    void touch();
    void tryIt();
    void finished(uint64_t serial, unsigned asked, Result<Commit> made);
    bool takeLifted(Result<Level> clip);

    Document& document_;
    bool clipping_ = false;
    std::shared_ptr<const Level> held_, last_;
    Placement placement_;
    SetDownWish wish_;
    std::vector<MapPlace> line_;
    double every_ = 8;
    QString trouble_;
    unsigned asked_ = 0, shown_ = 0;  // changes that were made, and that the preview has
    bool applies_ = false, showing_ = false, drawsLine_ = false;
    Task trying_;
};

}  // namespace jam
