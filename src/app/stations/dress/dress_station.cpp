#include "stations/dress/dress_station.h"

#include <algorithm>
#include <QButtonGroup>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QLocale>
#include <QMenu>
#include <QScrollArea>
#include <QToolButton>
#include <QVBoxLayout>

#include "dress/shipped_kinds.h"
#include "edits/kind_edits.h"
#include "hands/fence_hand.h"
#include "hands/single_hand.h"
#include "level/ground.h"
#include "level/things.h"
#include "looks/kind_art.h"
#include "looks/theme.h"
#include "panels/brush_fields.h"
#include "panels/fence_panel.h"
#include "panels/page.h"
#include "panels/rules_panel.h"
#include "panels/tool_shelf.h"
#include "stations/dress/kind_panel.h"
#include "stations/dress/kind_strip.h"
#include "stations/dress/single_panel.h"
#include "stations/dress/take_in_dialog.h"
#include "tasks/work.h"
#include "view/ground_view.h"
#include "watch/surveyor.h"
#include "watch/verdicts.h"

namespace jam {

namespace {
constexpr int kButtonWidth = 58;
constexpr size_t kLightTriangles = 6000;  // of a shape in the dialog
}  // namespace

DressStation::DressStation(House& house)
    : Station("dress", tr("Dress"), "dress", "F6"), house_(house), pointed_(house.place.document) {
    connect(&house.verdicts, &Verdicts::changed, this, &Station::stateChanged);
    house.place.document.on(About::dress, this, [this] {
        emit stateChanged();
        mark();
    });
    connect(&house.place.standpoint, &Standpoint::chosenChanged, this, &DressStation::mark);
    connect(&house.place.standpoint, &Standpoint::cursorMoved, this, &DressStation::tellCount);
    connect(&house.surveyor, &Surveyor::found, this, &DressStation::tellCount);
    connect(&house.place.standpoint, &Standpoint::stationChanged, this, [this] {
        if (!here()) house_.place.standpoint.setDressWay(DressWay::brush);
        mark();
        tellCount();
    });
    connect(&house.place.toolbox, &Toolbox::toolChanged, this,
            [this] { house_.place.standpoint.setDressWay(DressWay::brush); });
}

Station::State DressStation::state() const {
    const Level& level = house_.place.document.level();
    if (level.kinds.empty()) return {tr("nothing yet")};
    const auto& findings = house_.surveyor.findings();
    if (!findings) return {};
    if (const auto w = warned(house_)) return *w;
    long long all = 0;
    for (const auto& [kind, f] : findings->dress.all()) all += f.standing;
    return {tr("%1 stand").arg(QLocale().toString(all)), all > 0 ? Mood::passes : Mood::plain};
}

QList<ActionRow> DressStation::commands() {
    const auto turnTo = [this](DressWay way) {
        return [this, way] {
            Standpoint& stand = house_.place.standpoint;
            stand.setStation(id());
            stand.setDressWay(stand.dressWay() == way ? DressWay::brush : way);
        };
    };
    return {{"putOne", tr("Put one of the chosen kind down with the next press"), "Shift+V", "", false,
             turnTo(DressWay::put)},
            {"lineOfThem", tr("Pull a line of the chosen kind"), "Shift+R", "", false, turnTo(DressWay::line)},
            {"chooseStanding", tr("Choose and move what stands"), "Shift+B", "", false, turnTo(DressWay::choose)},
            {"deleteStanding", tr("Delete what is chosen of what stands"), "Del", "", false, [this] {
                 if (here()) KindEdits(house_.place).removeChosen();
             }}};
}

bool DressStation::putAway() {
    const bool was = house_.place.standpoint.dressWay() != DressWay::brush;
    house_.place.standpoint.setDressWay(DressWay::brush);
    return was;
}

std::unique_ptr<Hand> DressStation::takeHand(const HandEvent& press) {
    const Kind* kind = house_.place.kind();
    const DressWay way = house_.place.standpoint.dressWay();
    if (way == DressWay::brush) {
        // Alt takes up the kind under the cursor, as it does a layer when painting.
        if (press.modifiers & Qt::AltModifier) {
            if (const auto at = plantingUnder(house_.view, pointed_.plantings(), press))
                house_.place.chooseKind(at->kind);
            else house_.services.say(tr("Nothing stands there."));
            return nullptr;
        }
        if (!kind && house_.place.brushing()) {
            house_.services.say(tr("Add a kind at the bench first."));
            return nullptr;
        }
        return workingHand(house_.view, press, house_.worker());
    }
    if (way == DressWay::put) {
        if (!kind) house_.services.say(tr("Add a kind at the bench first."));
        if (!kind || !press.ground) return nullptr;
        return std::make_unique<PutHand>(house_.view, press, kind->id);
    }
    if (way == DressWay::line) {
        if (!kind) house_.services.say(tr("Add a kind at the bench first."));
        return kind && press.ground ? std::make_unique<RowHand>(house_.view, press, kind->id,
                                                                plantingUnder(house_.view, pointed_.plantings(), press))
                                    : nullptr;
    }
    const auto at = plantingUnder(house_.view, pointed_.plantings(), press);
    if (!at) {
        house_.place.standpoint.setChosen({});
        return nullptr;
    }
    return std::make_unique<SingleHand>(house_.view, press, *at);
}

QWidget* DressStation::benchPage(QWidget* parent) {
    auto* page = new QWidget(parent);
    auto* row = new QHBoxLayout(page);
    row->setContentsMargins(0, 0, 0, 0);
    auto* shelf = new ToolShelf(house_, id(), kButtonWidth, page);
    row->addWidget(shelf, 3);
    auto* ways = new QVBoxLayout;
    ways->setSpacing(4);
    const struct {
        const char* id;
        const char* icon;
        QString text, tip;
        DressWay way;
    } all[] = {
        {"putOneButton", "put-one", tr("Put one"),
         tr("A click puts one of the chosen kind down; a pull from there turns and sizes it (Shift+V)"), DressWay::put},
        {"lineOfThemButton", "line", tr("Line"),
         tr("Pull a line of the chosen kind: rails and hedges end to end, others as far apart as in a row. Click "
            "beside a "
            "course to follow it, click one of a line to leave a gate (Shift+R)"),
         DressWay::line},
        {"chooseButton", "take-step", tr("Choose"),
         tr("Click what stands to choose it, with Shift several, with Ctrl one of a group; pull to move (Shift+B)"),
         DressWay::choose}};
    for (const auto& a : all) {
        auto* b = new QToolButton(page);
        b->setObjectName(a.id);
        b->setText(a.text);
        b->setToolTip(a.tip);
        b->setCheckable(true);
        b->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
        b->setFixedWidth(scaled(92));
        setThemedIcon(b, a.icon);
        connect(b, &QToolButton::clicked, this,
                [this, way = a.way](bool on) { house_.place.standpoint.setDressWay(on ? way : DressWay::brush); });
        connect(&house_.place.standpoint, &Standpoint::dressWayChosen, b,
                [this, b, way = a.way] { b->setChecked(house_.place.standpoint.dressWay() == way); });
        ways->addWidget(b);
    }
    ways->addStretch();
    row->addLayout(ways);
    auto* beside = new QVBoxLayout;
    beside->setSpacing(2);
    auto* find = new QLineEdit(page);
    find->setAccessibleName(tr("Search kinds"));
    find->setObjectName("findKind");
    find->setPlaceholderText(tr("Find a kind"));
    find->setClearButtonEnabled(true);
    auto* scroll = new QScrollArea(page);
    auto* strip = new KindStrip(house_.place, house_.surveyor, scroll);
    scroll->setWidget(strip);
    scroll->setWidgetResizable(true);
    connect(find, &QLineEdit::textChanged, strip, &KindStrip::search);
    connect(strip, &KindStrip::addWanted, this, &DressStation::addMenu);
    connect(strip, &KindStrip::menuWanted, this, &DressStation::kindMenu);
    beside->addWidget(find);
    beside->addWidget(scroll, 1);
    row->addLayout(beside, 7);
    return page;
}

QWidget* DressStation::sheetPage(QWidget* parent) {
    auto* page = new QWidget(parent);
    auto* c = pageColumn(page);
    auto* kind = new KindPanel(house_, page);
    auto* rules = new RulesPanel(house_, ThingKind::kind, page);
    QButtonGroup* group = addParts(c,
                                   {{"partPlant", tr("Brush"), new BrushFields(house_.place, page)},
                                    {"partKind", tr("Kind"), kind},
                                    {"partKindRules", tr("Rules"), rules},
                                    {"partSingle", tr("One"), new SinglePanel(house_, page)},
                                    {"partDressFence", tr("Fence"), new FencePanel(house_, page)}},
                                   page);
    c->addStretch();
    auto* one = group->buttons()[3];
    connect(&house_.place.standpoint, &Standpoint::chosenChanged, one, [this, one] {
        if (here() && !house_.place.standpoint.chosen().empty()) one->click();
    });
    connect(kind, &KindPanel::shapeWanted, this, [this] {
        if (const Kind* k = house_.place.kind()) askShape(k->id);
    });
    connect(kind, &KindPanel::menuWanted, this, [this] { kindMenu(QCursor::pos()); });
    return page;
}

void DressStation::addMenu(const QPoint& at) {
    QMenu menu(house_.services.window());
    menu.setObjectName("addKindMenu");
    connect(menu.addAction(tr("From a file (glTF or OBJ)…")), &QAction::triggered, this, [this] { askShape(0); });
    menu.addSeparator();
    for (const Kind& k : shippedKinds())
        connect(menu.addAction(QIcon(kindPicture(k, QSize(32, 32), 2)), tr(k.name.c_str())), &QAction::triggered, this,
                [this, &k] { KindEdits(house_.place).add(k); });
    menu.exec(at);
}

void DressStation::askShape(uint32_t kind) {
    const QString path = QFileDialog::getOpenFileName(house_.services.window(), tr("Take a shape in"), {},
                                                      tr("Shapes (*.glb *.gltf *.obj)"));
    if (!path.isEmpty()) takeShapeIn(path, kind);
}

bool DressStation::takeFiles(const QStringList& paths, bool) {
    if (!isShapeFile(paths.front().toStdString())) return false;
    house_.place.standpoint.setStation(id());
    takeShapeIn(paths.front(), 0);
    return true;
}

void DressStation::takeShapeIn(const QString& path, uint32_t kind) {
    struct Read {
        std::shared_ptr<const ReadShape> shape;
        ReadShape light;
    };
    house_.work.start<Read>(
        tr("Reading"),
        [file = path.toStdString()](const Context&) -> Result<Read> {
            Result<ReadShape> shape = readShape(file);
            if (!shape) return shape.error();
            auto all = std::make_shared<const ReadShape>(shape.take());
            return Read{all, lighter(*all, kLightTriangles)};
        },
        [this, kind](Result<Read> got) {
            if (!got) return house_.services.refuse(got.error());
            Read read = got.take();
            TakeInDialog dialog(*read.shape, std::move(read.light), house_.services.window());
            if (dialog.exec() != QDialog::Accepted) return;
            makeShape(read.shape, dialog, kind);
        },
        true);
}

void DressStation::makeShape(std::shared_ptr<const ReadShape> read, const TakeInDialog& dialog, uint32_t kind) {
    using Shape = std::shared_ptr<const TakenShape>;
    house_.work.start<Shape>(
        tr("Taking it in"),
        [read = std::move(read), wish = dialog.wish()](const Context&) { return takeIn(*read, wish); },
        [this, kind, name = dialog.kindName(), blocks = dialog.blocks()](Result<Shape> made) {
            if (!made) return house_.services.refuse(made.error());
            const auto becomes = [&](Kind& k) {
                k.taken.shape = made.take();
                k.growth = {};
                k.blocks = blocks;
            };
            Kind next;
            if (kind) {
                house_.place.document.tryEdit(tr("Another shape of a kind"), [&](Level& l) -> Status {
                    const Kind* now = l.kind(kind);
                    if (!now) return goneError(ThingKind::kind);
                    next = *now;
                    becomes(next);
                    return changeKind(l, next);
                });
                return;
            }
            next.name = name.toStdString();
            next.sizeFrom = 0.9f, next.sizeTo = 1.1f;
            becomes(next);
            KindEdits(house_.place).add(std::move(next));
        });
}

void DressStation::kindMenu(const QPoint& at) {
    const Kind* k = house_.place.kind();
    if (!k) return;
    const Level& level = house_.place.document.level();
    const int place = level.kindIndex(k->id);
    QMenu menu(house_.services.window());
    menu.setObjectName("kindMenuOf");
    const auto add = [&](const QString& text, bool on, auto act) {
        QAction* a = menu.addAction(text);
        a->setEnabled(on);
        connect(a, &QAction::triggered, this, act);
    };
    add(tr("Double it"), level.kinds.size() < kMaxKinds, [this] { KindEdits(house_.place).duplicate(); });
    add(tr("Earlier: those after it keep off it"), place > 0, [this] { KindEdits(house_.place).move(-1); });
    add(tr("Later: it keeps off those before it"), place + 1 < static_cast<int>(level.kinds.size()),
        [this] { KindEdits(house_.place).move(1); });
    menu.addSeparator();
    add(tr("Delete it, and all that stand"), true, [this] { KindEdits(house_.place).remove(); });
    menu.exec(at);
}

// Beside the brush: how many of the chosen kind stand under it, as far as they are counted.
void DressStation::tellCount() {
    std::vector<GroundMark> marks;
    const auto& at = house_.place.standpoint.cursor();
    const Kind* kind = house_.place.kind();
    const auto& findings = house_.surveyor.findings();
    const Plantings* all = findings ? findings->dress.plantings() : nullptr;
    if (here() && house_.place.brushing() && at && kind && all) {
        const double radius = house_.place.toolbox.settings().radius;
        // The level that was counted may have other kinds by now.
        const int place = all->level().kindIndex(kind->id);
        if (place >= 0) {
            const long long n = all->knownWithin(static_cast<size_t>(place), at->x, at->z, radius);
            marks.push_back({{{at->x + 0.72 * radius, at->y, at->z - 0.72 * radius}},
                             GroundMark::Kind::label,
                             n == 0 ? tr("none here") : tr("%1 here").arg(QLocale().toString(n))});
        }
    }
    house_.view.marks().set("underBrush", std::move(marks));
}

// What is drawn over the picture: where what is chosen stands.
void DressStation::mark() {
    std::vector<GroundMark> marks;
    const Level& level = house_.place.document.level();
    if (here())
        for (const OneStanding& one : house_.place.standpoint.chosen())
            if (const Kind* k = level.kind(one.kind))
                marks.push_back(
                    {{{one.planting.x, altitudeAt(level, one.planting.x, one.planting.z) + 0.1, one.planting.z}},
                     GroundMark::Kind::place,
                     QString::fromStdString(k->name)});
    house_.view.marks().set("dress", std::move(marks));
}

}  // namespace jam
