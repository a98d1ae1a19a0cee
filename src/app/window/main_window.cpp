#include "window/main_window.h"

#include <QAbstractButton>
#include <QAbstractSpinBox>
#include <QApplication>
#include <QCloseEvent>
#include <QComboBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QMenu>
#include <QMessageBox>
#include <QMimeData>
#include <QScrollArea>
#include <QSettings>
#include <QSlider>
#include <QVBoxLayout>

#include "hands/handles_hand.h"
#include "hands/tape_hand.h"
#include "looks/theme.h"
#include "looks/tool_looks.h"
#include "panels/bench.h"
#include "panels/first_minute.h"
#include "panels/keys_dialog.h"
#include "panels/sheet.h"
#include "panels/trail.h"
#include "survey/contours.h"

namespace jam {

namespace {

// What a picture says to the eye its tip says to the ear.
void nameByTip(QObject* watched) {
    auto* b = qobject_cast<QAbstractButton*>(watched);
    if (!b || !b->text().isEmpty() || b->toolTip().isEmpty()) return;
    b->setAccessibleName(b->toolTip().section('.', 0, 0));
}

}  // namespace

MainWindow::MainWindow(Workplace& place, std::vector<Layer> layers, std::unique_ptr<Surface> surface,
                       const std::filesystem::path& journals)
    : place_(place), keeping_(place.document, journals), shippedLayers_(std::move(layers)),
      surveyor_(new Surveyor(place.document, this)), reach_(new ReachWatch(place.document, this)),
      verdicts_(new Verdicts(place.document, *surveyor_, *reach_, this)),
      view_(new GroundView(place, std::move(surface))), house_{place, *view_, *surveyor_, *reach_,        *verdicts_,
                                                               work_, shelf_, *this,      shippedLayers_, nullptr},
      stations_(makeStations(house_)) {
    setAcceptDrops(true);
    setWindowIcon(QIcon(":/icons/jamhill.svg"));
    actions_ = new Actions(actionTable(), this);
    house_.actions = actions_;
    menu_ = makeMenu();
    const Actions& a = *actions_;
    trail_ = new Trail(stations_, place.standpoint,
                       {a["undo"], a["redo"], a["whole"], a["tape"], a["contours"], a["plan"], a["overview"],
                        a["sheet"], a["fullView"]},
                       menu_, this);
    connect(trail_, &Trail::stateChosen, this, [this](const QByteArray& station) {
        if (const auto there = verdicts_->place(station)) view_->visit(*there);
    });
    bench_ = new Bench(house_, stations_, this);
    sheet_ = new Sheet(house_, stations_, this);
    auto* body = new QWidget(this);
    auto* column = new QVBoxLayout(body);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(trail_);
    firstMinute_ = new FirstMinute(place, *view_, *actions_, this);
    column->addWidget(firstMinute_);
    auto* row = new QHBoxLayout;
    row->setSpacing(0);
    row->addWidget(view_, 1);
    row->addWidget(sheet_);
    column->addLayout(row, 1);
    column->addWidget(bench_);
    setCentralWidget(body);
    setMinimumSize(1024, 700);
    resize(1280, 800);

    const auto here = [this]() -> Station* {
        for (const auto& s : stations_)
            if (s->id() == place_.standpoint.station()) return s.get();
        return nullptr;
    };
    view_->takeHand = [here](const HandEvent& press) { return here() ? here()->takeHand(press) : nullptr; };
    view_->takeTape = [this](const HandEvent& press) { return std::make_unique<TapeHand>(*view_, press); };
    view_->takeHandles = [this](const glm::dvec3& at) { return std::make_unique<HandlesHand>(*view_, at); };
    view_->putAway = [here] { return here() && here()->putAway(); };
    place.document.on(About::name | About::history, this, &MainWindow::tellTitle);
    connect(&place.toolbox, &Toolbox::settingsChanged, this, &MainWindow::tellTools);
    connect(&place, &Workplace::said, this, &MainWindow::say);
    connect(&work_, &Work::said, this, &MainWindow::say);
    connect(&keeping_, &Safekeeping::said, this, &MainWindow::say);
    place.document.on(About::level, this, &MainWindow::holdFile);
    // What work made becomes the level or a dialog: not behind a hand that is still at it.
    connect(&work_, &Work::ended, view_, [this] { view_->letGo(); });
    connect(surveyor_, &Surveyor::found, this, [this] {
        const Findings& f = *surveyor_->findings();
        view_->setShade(f.shade, f.shadeChanged ? &*f.shadeChanged : nullptr);
    });
    const auto tellTrouble = [this](const Error& e) { say(QString::fromStdString(e.sentence())); };
    connect(surveyor_, &Surveyor::failed, this, tellTrouble);
    connect(reach_, &ReachWatch::failed, this, tellTrouble);
    connect(reach_, &ReachWatch::found, this, [this] { view_->setReach(reach_->reach()); });
    connect(view_, &GroundView::failed, this, &MainWindow::refuse);
    connect(view_, &GroundView::trouble, this, &MainWindow::say);
    connect(view_, &GroundView::sightChanged, this,
            [this] { (*actions_)["contours"]->setChecked(view_->sight().contours); });
    for (const char* held : {"handles", "peek"}) (*actions_)[held]->setAutoRepeat(false);
    for (QWidget* w : findChildren<QWidget*>()) nameByTip(w);
    qApp->installEventFilter(this);
    (*actions_)["sheet"]->setChecked(true);
    recallBrushes();
    tellTitle();
    tellTools();
    view_->setFocus();
    holdFile();
}

MainWindow::~MainWindow() { work_.stop(); }

// --- commands -----------------------------------------------------------------------------------------------------

QList<ActionRow> MainWindow::actionTable() {
    QList<ActionRow> rows = toolActions();
    for (const auto& s : stations_)
        rows.push_back({s->id().constData(), tr("Go to %1").arg(s->title()), s->key(), "", false,
                        [this, id = s->id()] { place_.standpoint.setStation(id); }});
    for (const auto& s : stations_) rows += s->commands();
    return rows + viewActions() +
           QList<ActionRow>{
               {"undo", tr("Undo"), "Ctrl+Z", "undo", false, [this] { view_->letGo(), place_.document.undo(); }},
               {"redo", tr("Redo"), "Ctrl+Shift+Z", "redo", false, [this] { view_->letGo(), place_.document.redo(); }},
               {"open", tr("Open…"), "Ctrl+O", "", false, [this] { openWithDialog(); }},
               {"save", tr("Save"), "Ctrl+S", "", false, [this] { save(); }},
               {"saveAs", tr("Save as…"), "Ctrl+Shift+S", "", false, [this] { saveAs(); }},
               {"theme", tr("Light or dark"), "", "", false, [this] { switchTheme(); }},
               {"keys", tr("Keys…"), "F1", "", false, [this] { KeysDialog(*actions_, this).exec(); }},
               {"firstMinute", tr("The first minute"), "", "", false, [this] { firstMinute_->begin(); }},
               {"quit", tr("Quit"), "Ctrl+Q", "", false, [this] { close(); }},
           };
}

QList<ActionRow> MainWindow::toolActions() {
    QList<ActionRow> rows;
    for (int t = 0; t < kTools; ++t) {
        const auto tool = static_cast<Tool>(t);
        const ToolLook& look = lookOf(tool);
        rows.push_back({toolName(tool).data(), look.label ? QString::fromUtf8(look.label) : toolTitle(tool), look.key,
                        look.icon, true, [this, tool] { place_.takeUp(tool), tellTools(); }});
    }
    Toolbox& box = place_.toolbox;
    const auto path = [&box](StrokePath p) { return [&box, p] { box.setPath(p); }; };
    const auto radius = [&box](float by) {
        return [&box, by] { box.changeSettings([by](StrokeSettings& s) { s.radius *= by; }); };
    };
    const auto strength = [&box](float by) {
        return [&box, by] { box.changeSettings([by](StrokeSettings& s) { s.strength *= by; }); };
    };
    return rows + QList<ActionRow>{
                      {"wayFree", tr("Strokes by hand"), "", "free", true, path(StrokePath::free)},
                      {"wayStraight", tr("Straight strokes; Ctrl keeps to directions"), "", "line", true,
                       path(StrokePath::straight)},
                      {"wayCorners",
                       tr("Strokes along clicks: double click or Enter ends, Backspace takes one back, Ctrl keeps to "
                          "directions"),
                       "", "corners", true, path(StrokePath::corners)},
                      {"nextWay", tr("By hand, straight, or along clicks"), "L", "", false,
                       [&box] { box.setPath(static_cast<StrokePath>((static_cast<int>(box.path()) + 1) % 3)); }},
                      {"smaller", tr("Smaller radius"), "[", "", false, radius(1 / 1.15f)},
                      {"larger", tr("Larger radius"), "]", "", false, radius(1.15f)},
                      {"weaker", tr("Less strength"), "Shift+[", "", false, strength(1 / 1.2f)},
                      {"stronger", tr("More strength"), "Shift+]", "", false, strength(1.2f)},
                  };
}

QList<ActionRow> MainWindow::viewActions() {
    return {
        {"handles", tr("Hold for the brush's handles on the ground"), "B", "", false,
         [this] { view_->setHandling(true); }},
        {"peek", tr("Hold to see the ground as it was"), "V", "", false,
         [this] {
             if (const QString told = place_.document.lookBack(true); !told.isEmpty()) say(told);
         }},
        {"tape", tr("Tape: distance, height difference and gradient between two places"), "T", "tape", true,
         [this] { view_->setTaping((*actions_)["tape"]->isChecked()); }},
        {"contours", tr("Contours"), "C", "contours", true, [this] { showContours(); }},
        {"overview", tr("See the whole level"), "Home", "centre", false, [this] { view_->overview(); }},
        {"plan", tr("Look from above"), "P", "plan", false, [this] { view_->plan(); }},
        {"centre", tr("Go to the cursor"), "G", "", false, [this] { view_->centreOnCursor(); }},
        {"nextPart", tr("Next part of the window: view, bench, sheet"), "Ctrl+Tab", "", false, [this] { nextPart(); }},
        {"menu", tr("Menu"), "F10", "", false, [this] { trail_->openMenu(); }},
        {"sheet", tr("Sheet"), "Tab", "fold", true, [this] { sheet_->setVisible((*actions_)["sheet"]->isChecked()); }},
        {"fullView", tr("Full view"), "F11", "full-view", true,
         [this] { fullView((*actions_)["fullView"]->isChecked()); }},
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
        for (const QString& p : paths)
            recent_->addAction(QFileInfo(p).fileName() + "   " + QFileInfo(p).path(), this, [this, p] {
                if (mayLeave()) openFile(p);
            });
        recent_->setEnabled(!paths.isEmpty());
    });
    menu->addSeparator();
    menu->addActions({a["save"], a["saveAs"]});
    menu->addSeparator();
    menu->addActions({a["theme"], a["keys"], a["firstMinute"]});
    menu->addSeparator();
    menu->addAction(a["quit"]);
    return menu;
}

void MainWindow::tellTitle() {
    const Document& d = place_.document;
    setWindowTitle(QString("%1%2 – Jam Hill").arg(QString::fromStdString(d.level().name), d.dirty() ? "*" : ""));
    (*actions_)["undo"]->setEnabled(d.history().canUndo());
    (*actions_)["redo"]->setEnabled(d.history().canRedo());
}

void MainWindow::tellTools() {
    for (int t = 0; t < kTools; ++t)
        (*actions_)[toolName(static_cast<Tool>(t)).data()]->setChecked(place_.toolbox.tool() == static_cast<Tool>(t));
    const char* ids[] = {"wayFree", "wayStraight", "wayCorners"};
    for (int w = 0; w < 3; ++w) (*actions_)[ids[w]]->setChecked(place_.toolbox.path() == static_cast<StrokePath>(w));
}

void MainWindow::showContours() {
    Sight sight = view_->sight();
    sight.contours = (*actions_)["contours"]->isChecked();
    const HeightSpan s = place_.document.pyramid().whole();
    sight.contourStep = contourInterval(s.high - s.low, 24);
    view_->setSight(sight);
}

void MainWindow::fullView(bool on) {
    for (QWidget* w : std::initializer_list<QWidget*>{trail_, bench_}) w->setVisible(!on);
    sheet_->setVisible(!on && (*actions_)["sheet"]->isChecked());
    firstMinute_->setVisible(!on && FirstMinute::wanted());
    if (on) showFullScreen();
    else showNormal();
}

void MainWindow::switchTheme() {
    applyTheme(themeChoice() == ThemeChoice::dark ? ThemeChoice::light : ThemeChoice::dark);
    actions_->refreshIcons();
    for (QWidget* w : findChildren<QWidget*>()) w->update();
}

// What has the keyboard goes on from one part of the window to the next, to the first that can be worked in there.
void MainWindow::nextPart() {
    QWidget* const parts[] = {view_, bench_, sheet_};
    constexpr int kParts = 3;
    const QWidget* now = focusWidget();
    int at = 0;
    for (int i = 0; i < kParts; ++i)
        if (parts[i] == now || (now && parts[i]->isAncestorOf(now))) at = i;
    for (int step = 1; step <= kParts; ++step) {
        QWidget* next = parts[(at + step) % kParts];
        if (next == view_) return view_->setFocus(Qt::TabFocusReason);
        for (QWidget* w : next->findChildren<QWidget*>())
            if ((w->focusPolicy() & Qt::TabFocus) && w->isEnabled() && w->isVisible())
                return w->setFocus(Qt::TabFocusReason);
    }
}

// --- keys that are held -------------------------------------------------------------------------------------------

bool MainWindow::isKeyOf(const char* action, int key) const {
    const QKeySequence s = (*actions_)[action]->shortcut();
    return !s.isEmpty() && s[0].key() == key;
}

namespace {

// A page that is scrolled must not turn what comes to lie under the pointer; a number that was clicked may be turned.
bool turnsByAccident(QObject* watched) {
    const auto* w = qobject_cast<QWidget*>(watched);
    const bool turns = qobject_cast<QSlider*>(watched) || qobject_cast<QComboBox*>(watched) ||
                       (qobject_cast<QAbstractSpinBox*>(watched) && !w->hasFocus());
    for (; turns && w; w = w->parentWidget())
        if (qobject_cast<const QScrollArea*>(w)) return true;
    return false;
}

}  // namespace

bool MainWindow::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::Polish || event->type() == QEvent::ToolTipChange) nameByTip(watched);
    if (event->type() == QEvent::Wheel && turnsByAccident(watched)) {
        event->ignore();  // so it goes on to what scrolls
        return true;
    }
    // Keys that act while they are held end with their release, wherever the focus is.
    if (event->type() == QEvent::KeyRelease && !static_cast<QKeyEvent*>(event)->isAutoRepeat()) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (view_->handling() && isKeyOf("handles", key)) view_->setHandling(false);
        if (isKeyOf("peek", key)) place_.document.lookBack(false);
    }
    // In the fields Tab goes from one to the next, whatever it does over the ground; Esc gives the keyboard back.
    if (event->type() == QEvent::ShortcutOverride && isAncestorOf(qobject_cast<QWidget*>(watched)) &&
        watched == focusWidget() && watched != view_) {
        const auto* e = static_cast<QKeyEvent*>(event);
        const int key = e->key();
        if ((key == Qt::Key_Tab || key == Qt::Key_Backtab) && !(e->modifiers() & Qt::ControlModifier)) event->accept();
        else if (key == Qt::Key_Escape) view_->setFocus(), view_->putAway();
    }
    if (watched == this && (event->type() == QEvent::WindowDeactivate || event->type() == QEvent::WindowBlocked))
        place_.document.lookBack(false);
    return QMainWindow::eventFilter(watched, event);
}

// --- what is said -------------------------------------------------------------------------------------------------

void MainWindow::say(const QString& sentence) {
    lastMessage_ = sentence;
    bench_->say(sentence);
}

void MainWindow::refuse(const Error& error) {
    if (wasCancelled(error)) return say(tr("Stopped; the level is as it was."));
    const QString sentence = QString::fromStdString(error.sentence());
    if (quiet_) return say(sentence);
    view_->letGo();
    lastMessage_ = sentence;
    QMessageBox box(QMessageBox::NoIcon, tr("Jam Hill"), sentence, QMessageBox::Ok, this);
    box.exec();
}

bool MainWindow::ask(const QString& question, const QString& yes, const QString& no) {
    view_->letGo();
    QMessageBox box(QMessageBox::NoIcon, tr("Jam Hill"), question, QMessageBox::NoButton, this);
    auto* go = box.addButton(yes, QMessageBox::AcceptRole);
    go->setObjectName("yes");
    auto* stay = box.addButton(no, QMessageBox::RejectRole);
    stay->setObjectName("no");
    box.setDefaultButton(stay);
    box.setEscapeButton(stay);
    box.exec();
    return box.clickedButton() == go;
}

QString MainWindow::askSaveFile(const QString& title, const QString& start, const QString& filter,
                                const QString& suffix) {
    view_->letGo();
    const QFileInfo from(start);
    QFileDialog dialog(this, title, from.path(), filter);
    dialog.setAcceptMode(QFileDialog::AcceptSave);
    dialog.setFileMode(QFileDialog::AnyFile);
    // With it the dialog asks about the file that will be written, and not about what was typed.
    dialog.setDefaultSuffix(suffix);
    dialog.selectFile(from.fileName());
    if (dialog.exec() != QDialog::Accepted || dialog.selectedFiles().isEmpty()) return {};
    return dialog.selectedFiles().front();
}

// --- files that are dropped ---------------------------------------------------------------------------------------

void MainWindow::dragEnterEvent(QDragEnterEvent* e) {
    const auto urls = e->mimeData()->urls();
    if (!urls.empty() && std::all_of(urls.begin(), urls.end(), [](const QUrl& u) { return u.isLocalFile(); }))
        e->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* e) {
    QStringList paths;
    for (const QUrl& u : e->mimeData()->urls()) paths << u.toLocalFile();
    view_->letGo();
    if (paths.front().endsWith(".jamhill", Qt::CaseInsensitive)) {
        if (mayLeave()) openFile(paths.front());
        return;
    }
    // The present station is asked first.
    for (const bool present : {true, false})
        for (const auto& s : stations_)
            if ((s->id() == place_.standpoint.station()) == present && s->takeFiles(paths, present)) return;
    say(
        tr("Drop a .jamhill file to open it, a heightmap to start from it, a brush to keep it, a shape (.glb, .gltf, "
           ".obj) to make a kind of it, or a picture at the Cover station to make a layer of it."));
}

}  // namespace jam
