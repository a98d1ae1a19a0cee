// The window: trail above, bench below, sheet at the right, the view in between.
#pragma once

#include <QMainWindow>

#include "actions.h"
#include "files/handover.h"
#include "jobs.h"
#include "layer_pictures.h"
#include "panels/bench.h"
#include "session.h"
#include "shelf.h"
#include "surveyor.h"
#include "view/ground_view.h"

namespace jam {

class ImportDialog;
class Sheet;
class Trail;

class MainWindow : public QMainWindow {
    Q_OBJECT
public:
    // The session outlives the window. `layers` is the shipped set.
    MainWindow(Session& session, std::vector<Layer> layers, std::unique_ptr<Surface> surface);
    ~MainWindow() override;

    GroundView* view() const { return view_; }
    Bench* bench() const { return bench_; }
    Trail* trail() const { return trail_; }
    Sheet* sheet() const { return sheet_; }
    Actions& actions() const { return *actions_; }
    Jobs& jobs() { return jobs_; }
    Shelf& shelf() { return shelf_; }
    Surveyor& surveyor() { return *surveyor_; }

    // Opens a level file off the interface thread; the present level stays when it fails.
    void openFile(const QString& path);
    // Makes a layer of picture files, after asking how.
    void addLayerFrom(const QStringList& files);
    static QStringList picturesIn(const QString& folder);
    // Saves to a path off the interface thread.
    void saveTo(const QString& path);
    void handOverTo(const QString& folder, const HandoverWish& wish);
    // The last message that was shown to the person, for tests.
    const QString& lastMessage() const { return lastMessage_; }
    // Refusals go to the bench instead of a dialog; for tests and scripts.
    void setQuiet(bool quiet) { quiet_ = quiet; }

protected:
    void closeEvent(QCloseEvent*) override;
    bool eventFilter(QObject* watched, QEvent* event) override;
    void dragEnterEvent(QDragEnterEvent*) override;
    void dropEvent(QDropEvent*) override;

private:
    QList<ActionRow> actionTable();
    QMenu* makeMenu();
    void tellTitle();
    void tellTools();
    void tellWay();
    // The action's key is held down: its release goes to the view, which asks for it here.
    bool isKeyOf(const char* action, int key) const;
    void keepBrush();
    void takeBrush();
    void addTip();
    void rememberBrushes() const;
    void recallBrushes();
    void say(const QString& sentence);
    void refuse(const Error& error);
    // False when the person wants to stay with unsaved work.
    bool mayLeave();
    void rememberRecent(const QString& path);

    void newLevel();
    void importHeightmap();
    void importPicture(const QString& path);
    void makeFromField(const ImportDialog& dialog, const QString& path);
    void openWithDialog();
    void save();
    void saveAs();
    void addLayerMenu();
    void layerMenu(const QPoint& globalPlace);
    void swapPictures();
    void importWeights();
    void changeCover(int factor);
    // Asks about the pictures and works them into a layer; `swapped` is the layer that gets them, or none for a new one.
    void askLayer(std::vector<LayerWish> wishes, uint32_t swapped);
    bool roomForLayer();
    // Changes the level off the interface thread, as one undo step.
    void workOn(const QString& what, std::function<bool(Level&, const Context&)> job);
    void scaleRadius(float by);
    void scaleStrength(float by);
    void fullView(bool on);
    void switchTheme();

    Session& session_;
    std::vector<Layer> shippedLayers_;
    Jobs jobs_;
    Shelf shelf_;
    Surveyor* surveyor_;
    GroundView* view_;
    Actions* actions_;
    Trail* trail_;
    Bench* bench_;
    Sheet* sheet_;
    QMenu *menu_, *recent_;
    QString lastMessage_;
    bool quiet_ = false;
};

}  // namespace jam
