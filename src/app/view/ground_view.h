// The view: shows the level, moves the camera, and lends what happens to it to the hand that works on the ground.
#pragma once

#include <QTimer>
#include <QWidget>

#include "render/navigator.h"
#include "view/hand_holder.h"
#include "view/surface.h"
#include "view/travel.h"
#include "view/view_marks.h"
#include "walk/reach.h"
#include "workplace/workplace.h"

namespace jam {

class GroundView : public QWidget, private Surface::Owner {
    Q_OBJECT
public:
    // The surface was made by makeSurface() for this view to adopt.
    GroundView(Workplace& workplace, std::unique_ptr<Surface> surface, QWidget* parent = nullptr);
    ~GroundView() override;

    Workplace& workplace() const { return workplace_; }
    const Camera& camera() const { return presenter().camera(); }
    void setCamera(const Camera& camera);
    Navigator navigator() const { return {document_.level(), document_.pyramid()}; }
    const Sight& sight() const { return presenter().sight(); }
    void setSight(const Sight& sight);
    bool flatLight() const { return presenter().flatLight(); }
    void setFlatLight(bool flat);
    // `changed` says where it differs from the shade before; null for everywhere.
    void setShade(const Shade& shade, const TileSet* changed);

    // --- the hand ---
    // What a press of the left button on the ground takes into the hand; null for nothing.
    std::function<std::unique_ptr<Hand>(const HandEvent&)> takeHand;
    // The hands for the tape and for the brush's handles, at a press and at a place.
    std::function<std::unique_ptr<Hand>(const HandEvent&)> takeTape;
    std::function<std::unique_ptr<Hand>(const glm::dvec3&)> takeHandles;
    // Esc with nothing in the hand; false when there was nothing to put away.
    std::function<bool()> putAway;
    // Ends whatever the hand is doing, and travelling too. What was done stays; with `drop` it is taken back.
    void letGo(bool drop = false);
    // Lets go of whatever is in the hand and takes this up.
    void takeUp(std::unique_ptr<Hand> hand);
    bool handBusy() const { return hands_.get() != nullptr; }
    Hand* hand() const { return hands_.get(); }
    const HandHolder& hands() const { return hands_; }
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
    // What is painted over the picture.
    ViewMarks& marks() { return *marks_; }
    const ViewMarks& marks() const { return *marks_; }
    // What is seen of the overlay of reach.
    void setReach(std::shared_ptr<const Reach> reach);
    // How the eye is under water; metres of 0 for not.
    void setUnderWater(const UnderWater& under);
    // Lets waves move, or stand still again.
    void setFlowing(bool on);
    bool flowing() const { return flow_.isActive(); }
    // The camera moved below the cursor: what lies there is looked for again.
    void hoverAgain();
    // All of the picture shows something else, and is renewed piece by piece.
    void refresh();
    // A picture is to be drawn.
    bool frameWaits() const { return presenter().frameWaits(); }
    // True when nothing waits to be drawn or refined.
    bool settled() const { return presenter().settled(); }
    // Nor is the picture averaged any more.
    bool rested() const { return presenter().rested(); }
    void setPasses(int passes) { presenter().setPasses(passes); }  // of Presenter
    // A driver that fails on the screen may still draw beside it; when that fails as well, failed() says so. Later.
    void drawBeside(const Error& error);
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
    // --- whose picture it is ---
    const Level& level() override { return document_.level(); }
    const HeightPyramid& pyramid() override { return document_.pyramid(); }
    HandAtWork handAtWork() override;
    void framed(bool moved) override { marks_->framed(moved); }
    void troubled(const Error& error) override;
    void unable(const Error& error) override { drawBeside(error); }
    void resized(const QSize& pixels) override;
    void paintOver(QPainter& painter) override { marks_->paint(painter); }

    Presenter& presenter() const { return surface_->presenter(); }
    void settle();
    void followRelief();
    void followNeighbours();
    void tellMiddle();
    void adoptLevel();
    void notice(const News& news);
    HandEvent handEvent(const QPointF& pixel, Qt::KeyboardModifiers modifiers,
                        Qt::MouseButton button = Qt::NoButton) const;
    void pressHand(const HandEvent& event);
    void pressByKey(QKeyEvent* e);
    void hoverAt(const QPointF& pixel);
    double devicePixel() const { return devicePixelRatioF(); }

    Workplace& workplace_;
    Document& document_;
    std::unique_ptr<Surface> surface_;
    ViewMarks* marks_ = nullptr;
    HandHolder hands_;
    Travel travel_;
    bool taping_ = false;
    float pressure_ = 1;
    std::optional<QPointF> hover_;
    bool keyPressed_ = false;  // Enter holds the hand down
    QTimer flow_;
};

}  // namespace jam
