#include "main_window.h"

#include <QApplication>
#include <QCloseEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QMenu>
#include <QMessageBox>
#include <QMimeData>
#include <QPushButton>
#include <QSettings>
#include <QVBoxLayout>

#include "files/heightmap.h"
#include "layer_pictures.h"
#include "panels/brush_shelf.h"
#include "panels/keys_dialog.h"
#include "panels/layer_panel.h"
#include "panels/layer_strip.h"
#include "panels/rules_panel.h"
#include "panels/sheet.h"
#include "panels/trail.h"
#include "panels/whole_panel.h"
#include "survey/contours.h"
#include "theme.h"

namespace jam {

namespace {

std::filesystem::path toPath(const QString& s) { return std::filesystem::path(s.toStdString()); }

bool isHeightmap(const QString& path) {
    const QString e = QFileInfo(path).suffix().toLower();
    return QStringList{"png", "tif", "tiff", "exr", "asc"}.contains(e) || namedRaw(toPath(path));
}

}  // namespace

MainWindow::MainWindow(Session& session, std::vector<Layer> layers, std::unique_ptr<Surface> surface)
    : session_(session), shippedLayers_(std::move(layers)), surveyor_(new Surveyor(session, this)),
      view_(new GroundView(session, std::move(surface))) {
    setAcceptDrops(true);
    setWindowIcon(QIcon(":/icons/jamhill.svg"));
    actions_ = new Actions(actionTable(), this);
    menu_ = makeMenu();
    const Actions& a = *actions_;
    trail_ = new Trail(session, *surveyor_, jobs_, {a["undo"], a["redo"], a["whole"], a["tape"], a["contours"], a["plan"], a["overview"], a["sheet"], a["fullView"]}, menu_, this);
    QList<QAction*> tools;
    for (int t = 0; t < kTools; ++t) tools << a[toolName(static_cast<Tool>(t)).data()];
    bench_ = new Bench(session, *view_, *surveyor_, shelf_, tools, {a["wayFree"], a["wayStraight"], a["wayCorners"]}, this);
    sheet_ = new Sheet(session, *view_, *surveyor_, jobs_, this);
    auto* body = new QWidget(this);
    auto* column = new QVBoxLayout(body);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(trail_);
    auto* row = new QHBoxLayout;
    row->setSpacing(0);
    row->addWidget(view_, 1);
    row->addWidget(sheet_);
    column->addLayout(row, 1);
    column->addWidget(bench_);
    setCentralWidget(body);
    setMinimumSize(1024, 700);
    resize(1280, 800);

    connect(&session, &Session::edited, this, &MainWindow::tellTitle);
    connect(&session, &Session::toolChanged, this, &MainWindow::tellTools);
    connect(&session, &Session::said, this, &MainWindow::say);
    connect(surveyor_, &Surveyor::found, this, [this] { view_->setShade(surveyor_->findings()->sun, surveyor_->findings()->open); });
    connect(view_, &GroundView::failed, this, &MainWindow::refuse);
    connect(view_, &GroundView::trouble, this, &MainWindow::say);
    connect(sheet_, &Sheet::newLevelWanted, this, &MainWindow::newLevel);
    connect(sheet_, &Sheet::importWanted, this, &MainWindow::importHeightmap);
    connect(sheet_, &Sheet::layerMenuWanted, this, [this] { layerMenu(QCursor::pos()); });
    connect(sheet_, &Sheet::handOverWanted, this, &MainWindow::handOverTo);
    connect(sheet_, &Sheet::layerPicturesWanted, this, &MainWindow::swapPictures);
    connect(sheet_, &Sheet::coverFactorWanted, this, &MainWindow::changeCover);
    connect(sheet_->rules(), &RulesPanel::workWanted, this, &MainWindow::workOn);
    connect(bench_->layers(), &LayerStrip::addWanted, this, &MainWindow::addLayerMenu);
    connect(bench_->layers(), &LayerStrip::menuWanted, this, [this](uint32_t, const QPoint& at) { layerMenu(at); });
    connect(sheet_, &Sheet::wholeShown, this, [this](bool on) { (*actions_)["whole"]->setChecked(on); });
    connect(sheet_->whole(), &WholePanel::said, this, &MainWindow::say);
    connect(sheet_->whole(), &WholePanel::failed, this, &MainWindow::refuse);
    connect(view_, &GroundView::sightChanged, this, [this] { (*actions_)["contours"]->setChecked(view_->sight().contours); });
    for (TipRow* row : bench_->tipRows()) connect(row, &TipRow::addWanted, this, &MainWindow::addTip);
    connect(bench_->brushes(), &BrushList::keepWanted, this, &MainWindow::keepBrush);
    connect(bench_->brushes(), &BrushList::takeWanted, this, &MainWindow::takeBrush);
    connect(bench_->brushes(), &BrushList::failed, this, &MainWindow::refuse);
    connect(&session, &Session::settingsChanged, this, &MainWindow::tellWay);
    for (const char* held : {"handles", "peek"}) (*actions_)[held]->setAutoRepeat(false);
    qApp->installEventFilter(this);
    (*actions_)["sheet"]->setChecked(true);
    recallBrushes();
    tellWay();
    tellTitle();
    tellTools();
    view_->setFocus();
}

MainWindow::~MainWindow() = default;

QList<ActionRow> MainWindow::actionTable() {
    const auto tool = [this](Tool t) {
        return [this, t] {
            session_.setStation(shapesGround(t) ? Station::shape : Station::cover);
            session_.setTool(t);
        };
    };
    const auto station = [this](Station s) { return [this, s] { session_.setStation(s); }; };
    return {
        {"raise", tr("Raise"), "1", "raise", true, tool(Tool::raise)},
        {"lower", tr("Lower"), "2", "lower", true, tool(Tool::lower)},
        {"smooth", tr("Smooth"), "3", "smooth", true, tool(Tool::smooth)},
        {"even-out", tr("Even out"), "4", "even-out", true, tool(Tool::evenOut)},
        {"flatten", tr("Flatten"), "5", "flatten", true, tool(Tool::flatten)},
        {"terrace", tr("Terrace"), "6", "terrace", true, tool(Tool::terrace)},
        {"slope", tr("To slope"), "7", "slope", true, tool(Tool::slope)},
        {"noise", tr("Noise"), "8", "noise", true, tool(Tool::noise)},
        {"crumble", tr("Crumble"), "9", "crumble", true, tool(Tool::crumble)},
        {"rain-wash", tr("Rain wash"), "0", "rain-wash", true, tool(Tool::rainWash)},
        {"restore", tr("Restore"), "R", "restore", true, tool(Tool::restore)},
        {"paint", tr("Paint"), "N", "paint", true, tool(Tool::paint)},
        {"erase", tr("Erase"), "Shift+N", "erase", true, tool(Tool::erase)},
        {"soften", tr("Soften"), "I", "soften", true, tool(Tool::soften)},
        {"carry", tr("Carry"), "U", "carry", true, tool(Tool::carry)},
        {"break-up", tr("Break up"), "Y", "break-up", true, tool(Tool::breakUp)},
        {"replace", tr("Replace"), "X", "replace", true, tool(Tool::replace)},
        {"by-rule", tr("By rule"), "Z", "by-rule", true, tool(Tool::byRule)},
        {"wash", tr("Wash"), "J", "wash", true, tool(Tool::wash)},
        {"rinse", tr("Rinse"), "Shift+J", "rinse", true, tool(Tool::rinse)},
        {"wayFree", tr("Strokes by hand"), "", "free", true, [this] { session_.setWay(StrokePath::free); }},
        {"wayStraight", tr("Straight strokes; Ctrl keeps to directions"), "", "line", true, [this] { session_.setWay(StrokePath::straight); }},
        {"wayCorners", tr("Strokes along clicks: double click or Enter ends, Backspace takes one back, Ctrl keeps to directions"), "", "corners", true, [this] { session_.setWay(StrokePath::corners); }},
        {"nextWay", tr("By hand, straight, or along clicks"), "L", "", false, [this] { session_.setWay(static_cast<StrokePath>((static_cast<int>(session_.way()) + 1) % 3)); }},
        {"handles", tr("Hold for the brush's handles on the ground"), "B", "", false, [this] { view_->setHandling(true); }},
        {"peek", tr("Hold to see the ground as it was"), "V", "", false, [this] { if (const QString told = session_.peek(true); !told.isEmpty()) say(told); }},
        {"tape", tr("Tape: distance, height difference and gradient between two places"), "T", "tape", true, [this] { view_->setTaping((*actions_)["tape"]->isChecked()); }},
        {"whole", tr("Whole ground: raise, scale, smooth, wear, generate, resize"), "H", "whole", true, [this] { sheet_->showWhole((*actions_)["whole"]->isChecked()); }},
        {"keepBrush", tr("Keep the brush under a name…"), "Ctrl+K", "", false, [this] { keepBrush(); }},
        {"smaller", tr("Smaller radius"), "[", "", false, [this] { scaleRadius(1 / 1.15f); }},
        {"larger", tr("Larger radius"), "]", "", false, [this] { scaleRadius(1.15f); }},
        {"weaker", tr("Less strength"), "Shift+[", "", false, [this] { scaleStrength(1 / 1.2f); }},
        {"stronger", tr("More strength"), "Shift+]", "", false, [this] { scaleStrength(1.2f); }},
        {"undo", tr("Undo"), "Ctrl+Z", "undo", false, [this] { session_.undo(); }},
        {"redo", tr("Redo"), "Ctrl+Shift+Z", "redo", false, [this] { session_.redo(); }},
        {"layOut", tr("Go to Lay out"), "F2", "", false, station(Station::layOut)},
        {"shape", tr("Go to Shape"), "F3", "", false, station(Station::shape)},
        {"cover", tr("Go to Cover"), "F4", "", false, station(Station::cover)},
        {"light", tr("Go to Light"), "F5", "", false, station(Station::light)},
        {"handOver", tr("Go to Hand over"), "F6", "", false, station(Station::handOver)},
        {"contours", tr("Contours"), "C", "contours", true, [this] {
             Sight look = view_->sight();
             look.contours = (*actions_)["contours"]->isChecked();
             const HeightSpan s = session_.pyramid().whole();
             look.contourStep = contourInterval(s.high - s.low, 24);
             view_->setSight(look);
         }},
        {"overview", tr("See the whole level"), "Home", "centre", false, [this] { view_->overview(); }},
        {"plan", tr("Look from above"), "P", "plan", false, [this] { view_->plan(); }},
        {"centre", tr("Go to the cursor"), "G", "", false, [this] { view_->centreOnCursor(); }},
        {"sheet", tr("Sheet"), "Tab", "fold", true, [this] { sheet_->setVisible((*actions_)["sheet"]->isChecked()); }},
        {"fullView", tr("Full view"), "F11", "full-view", true, [this] { fullView((*actions_)["fullView"]->isChecked()); }},
        {"new", tr("New level…"), "Ctrl+N", "", false, [this] { newLevel(); }},
        {"import", tr("Start from a heightmap…"), "", "", false, [this] { importHeightmap(); }},
        {"open", tr("Open…"), "Ctrl+O", "", false, [this] { openWithDialog(); }},
        {"save", tr("Save"), "Ctrl+S", "", false, [this] { save(); }},
        {"saveAs", tr("Save as…"), "Ctrl+Shift+S", "", false, [this] { saveAs(); }},
        {"theme", tr("Light or dark"), "", "", false, [this] { switchTheme(); }},
        {"keys", tr("Keys…"), "F1", "", false, [this] { KeysDialog(*actions_, this).exec(); }},
        {"quit", tr("Quit"), "Ctrl+Q", "", false, [this] { close(); }},
    };
}

QMenu* MainWindow::makeMenu() {
    auto* menu = new QMenu(this);
    const Actions& a = *actions_;
    menu->addActions({a["new"], a["import"], a["open"]});
    recent_ = menu->addMenu(tr("Open recent"));
    connect(menu, &QMenu::aboutToShow, this, [this] {
        recent_->clear();
        const QStringList paths = QSettings().value("recent").toStringList();
        for (const QString& p : paths) recent_->addAction(QFileInfo(p).fileName() + "   " + QFileInfo(p).path(), this, [this, p] { if (mayLeave()) openFile(p); });
        recent_->setEnabled(!paths.isEmpty());
    });
    menu->addSeparator();
    menu->addActions({a["save"], a["saveAs"]});
    menu->addSeparator();
    menu->addActions({a["theme"], a["keys"]});
    menu->addSeparator();
    menu->addAction(a["quit"]);
    return menu;
}

void MainWindow::tellTitle() {
    const QString name = QString::fromStdString(session_.level().name);
    setWindowTitle(QString("%1%2 – Jam Hill").arg(name, session_.dirty() ? "*" : ""));
    (*actions_)["undo"]->setEnabled(session_.history().canUndo());
    (*actions_)["redo"]->setEnabled(session_.history().canRedo());
}

void MainWindow::tellTools() {
    for (int t = 0; t < kTools; ++t) (*actions_)[toolName(static_cast<Tool>(t)).data()]->setChecked(session_.tool() == static_cast<Tool>(t));
}

void MainWindow::tellWay() {
    const char* ids[] = {"wayFree", "wayStraight", "wayCorners"};
    for (int w = 0; w < 3; ++w) (*actions_)[ids[w]]->setChecked(session_.way() == static_cast<StrokePath>(w));
}

bool MainWindow::isKeyOf(const char* action, int key) const {
    const QKeySequence s = (*actions_)[action]->shortcut();
    return !s.isEmpty() && s[0].key() == key;
}

bool MainWindow::eventFilter(QObject* watched, QEvent* event) {
    // Keys that act while they are held end with their release, wherever the focus is.
    if (event->type() == QEvent::KeyRelease && !static_cast<QKeyEvent*>(event)->isAutoRepeat()) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (view_->handling() && isKeyOf("handles", key)) view_->setHandling(false);
        if (session_.peeking() && isKeyOf("peek", key)) session_.peek(false);
    }
    if (event->type() == QEvent::WindowDeactivate && watched == this) {
        view_->setHandling(false);
        if (session_.peeking()) session_.peek(false);
    }
    return QMainWindow::eventFilter(watched, event);
}

void MainWindow::say(const QString& sentence) {
    lastMessage_ = sentence;
    bench_->say(sentence);
}

void MainWindow::refuse(const Error& error) {
    const QString sentence = QString::fromStdString(error.sentence());
    if (quiet_) return say(sentence);
    lastMessage_ = sentence;
    QMessageBox box(QMessageBox::NoIcon, tr("Jam Hill"), sentence, QMessageBox::Ok, this);
    box.exec();
}

// --- the rest ------------------------------------------------------------------------------------------------------

void MainWindow::scaleRadius(float by) {
    session_.changeSettings([by](StrokeSettings& s) { s.radius *= by; });
}

void MainWindow::scaleStrength(float by) {
    session_.changeSettings([by](StrokeSettings& s) { s.strength *= by; });
}

void MainWindow::fullView(bool on) {
    for (QWidget* w : std::initializer_list<QWidget*>{trail_, bench_}) w->setVisible(!on);
    sheet_->setVisible(!on && (*actions_)["sheet"]->isChecked());
    if (on) showFullScreen();
    else showNormal();
}

void MainWindow::switchTheme() {
    applyTheme(themeChoice() == ThemeChoice::dark ? ThemeChoice::light : ThemeChoice::dark);
    actions_->refreshIcons();
    for (QWidget* w : findChildren<QWidget*>()) w->update();
}

void MainWindow::closeEvent(QCloseEvent* e) {
    session_.endStroke();
    if (!mayLeave()) return e->ignore();
    if (jobs_.running() && jobs_.what() == tr("Saving")) jobs_.wait();  // a save that began is finished
    jobs_.cancel();
    jobs_.wait();
    rememberBrushes();
    e->accept();
}

void MainWindow::dragEnterEvent(QDragEnterEvent* e) {
    const auto urls = e->mimeData()->urls();
    if (!urls.empty() && std::all_of(urls.begin(), urls.end(), [](const QUrl& u) { return u.isLocalFile(); })) e->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* e) {
    QStringList paths;
    for (const QUrl& u : e->mimeData()->urls()) paths << u.toLocalFile();
    const QString path = paths.front();
    if (path.endsWith(".jamhill", Qt::CaseInsensitive)) {
        if (mayLeave()) openFile(path);
    } else if (session_.station() == Station::cover && (QFileInfo(path).isDir() || namesPicture(path))) {
        addLayerFrom(QFileInfo(path).isDir() ? picturesIn(path) : paths);
    } else if (isHeightmap(path)) {
        if (mayLeave()) importPicture(path);
    } else if (path.endsWith(".json", Qt::CaseInsensitive)) {
        if (const Status s = shelf_.addBrush(path); !s) refuse(s.error());
        else say(tr("The brush lies with the others now."));
    } else {
        say(tr("Drop a .jamhill file to open it, a heightmap to start from it, a brush to keep it, or a picture at the Cover station to make a layer of it."));
    }
}

}  // namespace jam
