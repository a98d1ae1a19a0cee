// The view: shows the level, moves the camera, and turns the hand into strokes.
//
// It draws on demand only. While anything moves the picture may be quick; after a short rest it is refined tile by
// tile with events handled in between, so that input never waits for a whole frame.
#pragma once

#include <QElapsedTimer>
#include <QSet>
#include <QTimer>
#include <QWidget>

#include "render/navigator.h"
#include "session.h"
#include "view/brush_mark.h"
#include "view/surface.h"

namespace jam {

// What of a level, besides its samples, decides how it looks.
struct LevelLook {
    Sun sun;
    std::vector<Layer> layers;  // without their samples
    std::vector<BlendPair> pairs;

    bool operator==(const LevelLook&) const = default;
};

class GroundView : public QWidget {
    Q_OBJECT
public:
    // The surface was made by makeSurface() for this view to adopt.
    GroundView(Session& session, std::unique_ptr<Surface> surface, QWidget* parent = nullptr);
    ~GroundView() override;

    const Camera& camera() const { return camera_; }
    void setCamera(const Camera& camera);
    const Sight& sight() const { return sight_; }
    void setSight(const Sight& look);
    bool flatLight() const { return flatLight_; }
    void setFlatLight(bool flat);
    void setShade(std::shared_ptr<const Raster<uint8_t>> sun, std::shared_ptr<const Raster<uint8_t>> open);

    // A held key turns the brush mark into handles: pull its edge for the radius, its crown for the strength, its
    // shoulder for the falloff, the mirror's centre to another place; or drag anywhere, sideways for the radius and
    // upwards for the strength.
    void setHandling(bool on);
    bool handling() const { return handling_; }
    // Clicks set the ends of the tape instead of stroking.
    void setTaping(bool on);
    bool taping() const { return taping_; }

    void overview();
    void plan();
    void centreOnCursor();

    // Ground under a logical pixel of this widget.
    std::optional<glm::dvec3> pick(const QPointF& pixel) const;
    // True when nothing waits to be drawn or refined.
    bool settled() const;
    // The picture without marks, fully refined: waits for it.
    QImage refinedPicture();
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
    void keyPressEvent(QKeyEvent*) override;
    void keyReleaseEvent(QKeyEvent*) override;
    void focusOutEvent(QFocusEvent*) override;

private:
    enum class Hand { idle, stroking, lining, pulling, taping, looking, sliding, orbiting };
    enum class Grip { none, edge, crown, shoulder, centre, anywhere };

    Navigator navigator() const { return {session_.level(), session_.pyramid()}; }
    void adoptLevel();
    void notice(const News& news);
    void scheduleFrame() { if (!frame_.isActive()) frame_.start(); }
    // The picture is out of date everywhere (the camera moved); or only its light or layers are.
    void redrawAll();
    void refreshAll();
    void drawFrame();
    std::vector<PixelRect> partsOf(const News& news) const;
    void drawPart(const PixelRect& part, bool everything);
    void refineSome();
    void markStale(const PixelRect& part);
    void moveMark();
    void paintMarks(QPainter& painter);
    void paintContourLabels(QPainter& painter);
    void paintLine(QPainter& painter, const std::vector<glm::dvec3>& places, const QColor& colour, bool dots) const;
    void paintTape(QPainter& painter) const;
    void paintHandles(QPainter& painter) const;
    // Logical pixel of a place, if it is before the camera.
    std::optional<QPointF> pixelOf(const glm::dvec3& place) const;
    std::optional<QPointF> gripPixel(Grip grip) const;
    Grip gripNear(const QPointF& pixel) const;
    void pull(const QPointF& pixel);
    void pressBrush(const QPointF& pixel, const glm::dvec3& at, Qt::KeyboardModifiers modifiers);
    // `at`, or with Ctrl the place in the nearest of 24 directions from the last corner.
    glm::dvec3 snapped(const glm::dvec3& at, Qt::KeyboardModifiers modifiers) const;
    void finishLine();
    void dropLine();
    void travel();
    void hoverAt(const QPointF& pixel);
    double devicePixel() const { return devicePixelRatioF(); }

    Session& session_;
    std::unique_ptr<Surface> surface_;
    Camera camera_;
    Sight sight_;
    bool flatLight_ = false;
    std::shared_ptr<const Raster<uint8_t>> sun_, open_;
    bool shadeWaits_ = false, flatWaits_ = false;

    // What has to be drawn.
    QTimer frame_, rest_, refine_;
    bool all_ = true, fresh_ = true, refresh_ = false;
    LevelLook drawnLook_;
    News pending_;
    QSet<int> stale_;            // tiles that still show the quick picture
    double msPerMegapixel_ = 400;  // of the full picture, measured

    // The hand.
    Hand hand_ = Hand::idle;
    QPointF lastPixel_;
    std::optional<glm::dvec3> grabbed_;
    QElapsedTimer strokeClock_;
    QTimer strokeTimer_, travelTimer_;
    QElapsedTimer travelClock_;
    QSet<int> held_;             // travel keys that are down
    float pressure_ = 1;
    std::optional<QPointF> hover_;
    BrushMark mark_;
    QPainterPath mirrorLines_;
    QRect markRect_;
    std::vector<glm::dvec3> corners_;   // of the line that is being drawn, the last one still moving
    bool lineInverted_ = false;
    bool handling_ = false, taping_ = false;
    std::optional<glm::dvec3> handled_; // where the mark stands while its handles are out
    Grip grip_ = Grip::none;
    QPointF pullFrom_;
    float pullRadius_ = 0, pullStrength_ = 0;
    double crownPixels_ = 60;           // how high the crown's handle stands above the centre, at full strength
};

}  // namespace jam
