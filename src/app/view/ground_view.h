// The view: shows the level, moves the camera, and owns the hand that works on the ground.
//
// It draws on demand only. While anything moves the picture may be quick; after a short rest it is refined tile by
// tile with events handled in between, so that input never waits for a whole frame.
#pragma once

#include <map>
#include <QElapsedTimer>
#include <QTimer>
#include <QWidget>

#include "course/line.h"
#include "hands/hand.h"
#include "hands/travel.h"
#include "render/navigator.h"
#include "render/panorama.h"
#include "view/brush_mark.h"
#include "view/fence_edge.h"
#include "view/pace.h"
#include "view/refiner.h"
#include "view/standing_marks.h"
#include "view/surface.h"
#include "walk/reach.h"
#include "workplace/workplace.h"

namespace jam {

// Lines and places over the picture that tell of something: outlines of water, the way of a leak, a way that is walked,
// a leap, a walk that was walked, a flag from its foot to its head, where one looks from it, places, a label alone.
struct GroundMark {
    enum class Kind { outline, leak, way, leap, trace, flag, chosenFlag, facing, place, warning, label };
    std::vector<glm::dvec3> line;
    Kind kind = Kind::outline;
    QString label;  // at its beginning
};

class GroundView : public QWidget {
    Q_OBJECT
public:
    // The surface was made by makeSurface() for this view to adopt.
    GroundView(Workplace& workplace, std::unique_ptr<Surface> surface, QWidget* parent = nullptr);
    ~GroundView() override;

    Workplace& workplace() const { return workplace_; }
    const Camera& camera() const { return camera_; }
    void setCamera(const Camera& camera);
    Navigator navigator() const { return {document_.level(), document_.pyramid()}; }
    const Sight& sight() const { return sight_; }
    void setSight(const Sight& sight);
    bool flatLight() const { return flatLight_; }
    void setFlatLight(bool flat);
    // `changed` says where it differs from the shade before; null for everywhere.
    void setShade(const Shade& shade, const TileSet* changed);

    // --- the hand ---
    // What a press of the left button on the ground takes into the hand; null for nothing.
    std::function<std::unique_ptr<Hand>(const HandEvent&)> takeHand;
    // Esc with nothing in the hand; false when there was nothing to put away.
    std::function<bool()> putAway;
    // Ends whatever the hand is doing, and travelling too. What was done stays; with `drop` it is taken back.
    void letGo(bool drop = false);
    // Lets go of whatever is in the hand and takes this up.
    void takeUp(std::unique_ptr<Hand> hand);
    bool handBusy() const { return hand_ != nullptr; }
    Hand* hand() const { return hand_.get(); }
    // A held key brings out the brush's handles (hands/handles_hand.h).
    void setHandling(bool on);
    bool handling() const;
    // Presses take the tape instead of what the station would.
    void setTaping(bool on);
    bool taping() const { return taping_; }

    void overview();
    void plan();
    void centreOnCursor();
    // Looks at a place on the ground from close by, from the present direction or towards `yaw` degrees.
    void visit(const glm::dvec3& at, std::optional<double> yaw = {});

    // Ground under a logical pixel of this widget.
    std::optional<glm::dvec3> pick(const QPointF& pixel) const;
    // Logical pixel of a place, if it is before the camera.
    std::optional<QPointF> pixelOf(const glm::dvec3& place) const;
    // The lines of the courses that show, as they are seen.
    struct CourseLine {
        uint32_t course;
        int posts;
        std::vector<LinePoint> line;
    };
    const std::vector<CourseLine>& courseLines() const;
    // In place of those that `owner` had.
    void setMarks(const QByteArray& owner, std::vector<GroundMark> marks);
    const std::vector<GroundMark>& marks(const QByteArray& owner) { return marks_[owner]; }
    const std::map<QByteArray, std::vector<GroundMark>>& allMarks() const { return marks_; }
    // What is seen of the overlay of reach.
    void setReach(std::shared_ptr<const Reach> reach);
    // How the eye is under water; metres of 0 for not.
    void setUnderWater(const UnderWater& under);
    // What is painted over the picture is to be painted anew.
    void repaintMarks() { surface_->widget()->update(); }
    // Lets waves move, or stand still again.
    void setFlowing(bool on);
    bool flowing() const { return flow_.isActive(); }
    // The camera moved below the cursor: what lies there is looked for again.
    void hoverAgain();
    // True when nothing waits to be drawn or refined.
    bool settled() const;
    // The picture without marks, fully refined: waits for it.
    QImage refinedPicture();
    // How wide the ground is that is seen, about half way up the picture, metres.
    double metresAcross() const;
    // What another camera sees of the ground as it is shown, fully refined; the view itself stays.
    QImage pictureFrom(const Camera& camera);

signals:
    void cameraMoved();
    void sightChanged();
    void failed(const Error& error);
    void trouble(const QString& sentence);

protected:
    void resizeEvent(QResizeEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void tabletEvent(QTabletEvent*) override;
    void leaveEvent(QEvent*) override;
    bool event(QEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void keyReleaseEvent(QKeyEvent*) override;
    void focusOutEvent(QFocusEvent*) override;
    void showEvent(QShowEvent*) override;
    bool eventFilter(QObject*, QEvent*) override;

private:
    void followRelief();
    void tellMiddle();
    void adoptLevel();
    void notice(const News& news);
    void scheduleFrame() {
        if (!frame_.isActive()) frame_.start();
    }
    // The picture is out of date everywhere (the camera moved, or only turned); or only its light or layers are.
    void redrawAll();
    void redrawTurned();
    void refreshAll();
    void drawFrame();
    void syncRenderer(Renderer& renderer, const Change* hint);
    // Brings more of the ground up to date, for so long, and lets the picture follow where it shows, but for `drawn`.
    void bringSome();
    void bring(Renderer& renderer, const TileSet& drawn, double ms);
    std::vector<PixelRect> partsOf(const News& news) const;
    void drawPart(const PixelRect& part, bool everything, bool first);
    // The whole picture from what was seen before the camera turned; false when that is of no use.
    bool drawTurned(Renderer& renderer);
    void rememberPicture();
    Pace& pace();
    void goOn(QTimer& step);
    void refineSome();
    void moveMark();
    void followFence();
    void followCourses();
    void paintMarks(QPainter& painter);
    void paintStanding(QPainter& painter) const;
    HandEvent handEvent(const QPointF& pixel, Qt::KeyboardModifiers modifiers,
                        Qt::MouseButton button = Qt::NoButton) const;
    template <class F>
    void withHand(F f);
    void pressHand(const HandEvent& event);
    void pressByKey(QKeyEvent* e);
    template <class H>
    H* findHand() const {
        for (Hand* h = hand_.get(); h; h = h->aside.get())
            if (auto* found = dynamic_cast<H*>(h); found && !found->done()) return found;
        return nullptr;
    }
    void hoverAt(const QPointF& pixel);
    double devicePixel() const { return devicePixelRatioF(); }

    Workplace& workplace_;
    Document& document_;
    std::unique_ptr<Surface> surface_;
    Camera camera_;
    Sight sight_;
    bool flatLight_ = false;
    std::optional<Shade> shadeWaits_;
    std::optional<TileSet> shadeChanged_;  // none for everywhere
    bool flatWaits_ = false, ghostsWait_ = true;

    // What has to be drawn.
    QTimer frame_, follow_, rest_, refine_, bring_, retry_;
    bool all_ = true, fresh_ = true, refresh_ = false;
    bool markWaits_ = false;  // for the next frame
    StandingMarks standing_;
    QRect markLeft_;       // where it was shown last, while it waits
    bool moving_ = false;  // the next frame is of another camera, or of what a hand does to the ground
    News pending_;
    Refiner refiner_;
    Pace nearPace_{Pace::kNear}, farPace_{Pace::kAfar};
    Panorama seen_;          // from where the camera stands, while it turns; whatever changes lets go of it
    bool seenMore_ = false;  // the picture shows what the panorama does not know yet
    bool outdated_ = false;  // parts of the picture that wait to be refined show what is no more
    QElapsedTimer hovered_;  // since the last move of the mouse
    QElapsedTimer moved_;    // since the camera moved
    PixelRect dab_;          // what the last dab of a stroke drew anew
    QElapsedTimer dabbed_;   // since then

    // The hand.
    std::unique_ptr<Hand> hand_;
    std::vector<std::unique_ptr<Hand>> spent_;  // done with, destroyed when no hand is at work
    int inHand_ = 0;
    Travel travel_;
    bool taping_ = false;
    float pressure_ = 1;
    std::optional<QPointF> hover_;
    bool keyPressed_ = false;  // Enter holds the hand down
    mutable std::vector<CourseLine> courseLines_;
    mutable bool courseLinesKnown_ = false;
    std::map<QByteArray, std::vector<GroundMark>> marks_;
    std::shared_ptr<const Reach> reach_;
    bool reachWaits_ = false;
    QTimer flow_;
    FenceEdge fenceEdge_;
    QTimer fenceTick_, fenceRest_;
    int fenceStep_ = 0;
    BrushMark mark_;
    QPainterPath mirrorLines_;
    QRect markRect_;
};

}  // namespace jam
