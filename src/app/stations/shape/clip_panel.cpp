#include "stations/shape/clip_panel.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFileInfo>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPainter>
#include <QPushButton>
#include <QSignalBlocker>
#include <QToolButton>

#include "clip/clip.h"
#include "cover/weights.h"
#include "files/disk.h"
#include "files/level_file.h"
#include "house/shelf.h"
#include "house/station.h"
#include "level/ground.h"
#include "looks/theme.h"
#include "panels/number_field.h"
#include "panels/page.h"
#include "tasks/work.h"
#include "watch/level_plan.h"
#include "workplace/workplace.h"

namespace jam {

namespace {

constexpr int kPicture = 64;  // pixels
constexpr int kOnce = 0, kClicks = 1, kFirstCourse = 2;

std::filesystem::path toPath(const QString& s) { return std::filesystem::path(s.toStdString()); }

// Only the layers that show in it: a clip that is kept takes no pictures along that it does not need.
Level lightened(Level clip) {
    const std::array<double, kMaxLayers> shares = layerShares(clip);
    for (size_t i = clip.layers.size(); i-- > 0;)
        if (shares[i] == 0 && clip.layers.size() > 1) static_cast<void>(removeLayer(clip, clip.layers[i].id));
    return clip;
}

}  // namespace

QImage clipPicture(const Level& clip, int pixels) {
    if (clip.layers.empty()) return {};
    const Raster<uint8_t> sun(clip.columns, clip.rows, 255);
    LevelPlan drawn(pixels);
    drawn.follow(clip, sun, nullptr);
    QImage plan = drawn.ground().convertToFormat(QImage::Format_ARGB32);
    for (int y = 0; y < plan.height(); ++y)
        for (int x = 0; x < plan.width(); ++x) {
            const int c = x * (clip.columns - 1) / std::max(plan.width() - 1, 1),
                      r = y * (clip.rows - 1) / std::max(plan.height() - 1, 1);
            const QRgb p = plan.pixel(x, y);
            if (clip.fenced) plan.setPixel(x, y, qRgba(qRed(p), qGreen(p), qBlue(p), clip.fence.at(c, r) / 257));
        }
    return inSquare(plan, pixels);
}

ClipPanel::ClipPanel(House& house, QWidget* parent) : QWidget(parent), house_(house), clips_(house.place.clips) {
    auto* column = pageColumn(this);
    column->setSpacing(5);
    says_ = quietLabel({}, this);
    column->addWidget(says_);
    makeList(column);
    details_ = new QWidget(this);
    auto* c = pageColumn(details_);
    c->setSpacing(4);
    makeHead(c);
    makePlace(c);
    makeWays(c);
    column->addWidget(details_);
    column->addStretch();
    connect(&house.shelf, &Shelf::changed, this, &ClipPanel::fillList);
    for (const auto signal : {&Clips::moved, &Clips::heldChanged, &Clips::tried})
        connect(&clips_, signal, this, &ClipPanel::refresh);
    connect(&clips_, &Clips::lifted, this, [this] {
        house_.services.say(tr("Lifted. Move it by its middle, turn and scale it by its handles, then set it down."));
    });
    house.place.document.on(About::fence | About::history, this, &ClipPanel::refresh);
    house.place.document.on(About::strata, this, &ClipPanel::fillAlong);
    fillList();
    refresh();
}

void ClipPanel::makeList(QVBoxLayout* column) {
    list_ = new QListWidget(this);
    list_->setAccessibleName(tr("Kept clips"));
    list_->setObjectName("clipList");
    list_->setViewMode(QListView::IconMode);
    list_->setIconSize({kPicture, kPicture});
    list_->setGridSize({scaled(kPicture + 20), scaled(kPicture + 24)});
    list_->setResizeMode(QListView::Adjust);
    list_->setMovement(QListView::Static);
    list_->setFixedHeight(scaled(kPicture + 34));
    list_->setWordWrap(false);
    list_->setTextElideMode(Qt::ElideRight);
    column->addWidget(list_);
    connect(list_, &QListWidget::itemActivated, this,
            [this](QListWidgetItem* i) { take(static_cast<size_t>(list_->row(i))); });
    connect(list_, &QListWidget::itemClicked, this,
            [this](QListWidgetItem* i) { take(static_cast<size_t>(list_->row(i))); });
    connect(list_, &QListWidget::currentRowChanged, this, [this] { refresh(); });
    auto* row = new QHBoxLayout;
    row->setSpacing(2);
    lift_ = iconButton("liftFenced", "clip-lift", tr("Lift what lies inside the fence"), this);
    connect(lift_, &QToolButton::clicked, this, [this] { clips_.liftFenced(); });
    name_ = new QLineEdit(this);
    name_->setAccessibleName(tr("Name of the clip"));
    name_->setObjectName("clipName");
    name_->setPlaceholderText(tr("Name to keep it by"));
    keep_ = iconButton("keepClip", "save", tr("Keep the clip in hand under this name, for every level"), this);
    connect(keep_, &QToolButton::clicked, this, &ClipPanel::keep);
    connect(name_, &QLineEdit::returnPressed, this, &ClipPanel::keep);
    remove_ = iconButton("removeClip", "remove", tr("Delete the kept clip that is chosen"), this);
    connect(remove_, &QToolButton::clicked, this, [this] {
        if (list_->currentRow() < 0) return;
        if (const Status s = house_.shelf.removeClip(static_cast<size_t>(list_->currentRow())); !s)
            house_.services.refuse(s.error());
    });
    row->addWidget(lift_);
    row->addWidget(name_, 1);
    row->addWidget(keep_);
    row->addWidget(remove_);
    column->addLayout(row);
}

// First of all, so that it is at hand however far the numbers are pushed along.
void ClipPanel::makeHead(QVBoxLayout* c) {
    trouble_ = new QLabel(details_);
    trouble_->setObjectName("clipTrouble");
    trouble_->setWordWrap(true);
    c->addWidget(trouble_);
    auto* row = new QHBoxLayout;
    away_ = new QPushButton(tr("Put away"), details_);
    away_->setObjectName("clipAway");
    set_ = new QPushButton(tr("Set down"), details_);
    set_->setObjectName("clipSet");
    row->addWidget(away_);
    row->addWidget(set_);
    c->addLayout(row);
    connect(away_, &QPushButton::clicked, &clips_, &Clips::putAway);
    connect(set_, &QPushButton::clicked, &clips_, &Clips::setDown);
}

void ClipPanel::makePlace(QVBoxLayout* c) {
    const struct {
        NumberField** field;
        NumberSpec spec;
        void (*set)(Placement&, double);
    } all[] = {
        {&x_, {"clipX", tr("East"), tr(" m"), {-20000, 20000, 2}}, [](Placement& p, double v) { p.x = v; }},
        {&z_, {"clipZ", tr("South"), tr(" m"), {-20000, 20000, 2}}, [](Placement& p, double v) { p.z = v; }},
        {&turn_, {"clipTurn", tr("Turned"), tr("°"), {-180, 180, 1}}, [](Placement& p, double v) { p.turn = v; }},
        {&scale_,
         {"clipScale", tr("Size"), tr(" %"), {100 * kMinClipScale, 100 * kMaxClipScale, 1, true}},
         [](Placement& p, double v) { p.scale = v / 100; }},
        {&heights_,
         {"clipHeights", tr("Heights"), tr(" %"), {-400, 400, 0}},
         [](Placement& p, double v) { p.heightScale = v / 100; }},
        {&raise_, {"clipRaise", tr("Raised"), tr(" m"), {-500, 500, 2}}, [](Placement& p, double v) { p.raise = v; }}};
    for (const auto& a : all)
        *a.field = addNumber(c, a.spec, [this, set = a.set](double v) {
            Placement p = clips_.placement();
            set(p, v);
            clips_.move(p);
        });
    feather_ = addNumber(c, {"clipFeather", tr("Soft edge"), tr(" m"), {0, 200, 1}},
                         [this](double v) { clips_.change([v](SetDownWish& w) { w.feather = v; }); });
}

void ClipPanel::makeWays(QVBoxLayout* c) {
    const auto check = [&](const char* id, const QString& name, const QString& tip, auto set) {
        auto* b = new QCheckBox(name, details_);
        b->setObjectName(id);
        b->setToolTip(tip);
        connect(b, &QCheckBox::clicked, this, set);
        return b;
    };
    const auto wished = [this](bool SetDownWish::*flag) {
        return [this, flag](bool on) { clips_.change([=](SetDownWish& w) { w.*flag = on; }); };
    };
    join_ = new QComboBox(details_);
    join_->setAccessibleName(tr("How the clip meets the ground"));
    join_->setObjectName("clipJoin");
    join_->addItems(
        {tr("Replaces the ground"), tr("Is added to the ground"), tr("The higher of both"), tr("The lower of both")});
    c->addWidget(join_);
    connect(join_, &QComboBox::activated, this,
            [this](int i) { clips_.change([i](SetDownWish& w) { w.join = static_cast<ClipJoin>(i); }); });
    auto* grid = new QGridLayout;
    grid->setSpacing(3);
    mirror_ = check("clipMirror", tr("Mirrored"), tr("West and east change sides"), [this](bool on) {
        Placement p = clips_.placement();
        p.mirror = on;
        clips_.move(p);
    });
    sit_ = check("clipSit", tr("Sits on the ground"),
                 tr("Raised or lowered so that its rim lies on the ground there is"), wished(&SetDownWish::sit));
    const struct {
        const char* id;
        QString name;
        bool SetDownWish::*flag;
    } parts[] = {{"clipHeightsToo", tr("Its heights"), &SetDownWish::heights},
                 {"clipCover", tr("Its layers"), &SetDownWish::cover},
                 {"clipWash", tr("Its wash"), &SetDownWish::wash},
                 {"clipGaps", tr("Its openings"), &SetDownWish::gaps},
                 {"clipPlantings", tr("What stands there"), &SetDownWish::plantings}};
    grid->addWidget(mirror_, 0, 0);
    grid->addWidget(sit_, 0, 1);
    for (int i = 0; i < 5; ++i) {
        parts_[i] = check(parts[i].id, parts[i].name, {}, wished(parts[i].flag));
        grid->addWidget(parts_[i], 1 + i / 2, i % 2);
    }
    apart_ = check("clipApart", tr("Heights as a stratum of their own"),
                   tr("So that they can be turned down, hidden or deleted later"), [this](bool on) {
                       clips_.change([&](SetDownWish& w) {
                           w.stratum = on && clips_.held() ? clips_.held()->name : std::string();
                       });
                   });
    grid->addWidget(apart_, 4, 0, 1, 2);
    c->addLayout(grid);
    along_ = new QComboBox(details_);
    along_->setAccessibleName(tr("Where the clip is repeated"));
    along_->setObjectName("clipAlong");
    along_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    along_->setMinimumContentsLength(8);
    c->addWidget(along_);
    connect(along_, &QComboBox::activated, this, &ClipPanel::along);
    every_ = new NumberField(tr("Every"), tr(" m"), {0.1, 500, 1, true}, details_);
    every_->setObjectName("clipEvery");
    c->addWidget(every_);
    connect(every_, &NumberField::changed, &clips_, &Clips::setEvery);
    fillAlong();
}

void ClipPanel::showEvent(QShowEvent* e) {
    house_.place.standpoint.setFenceWay(FenceWay::none);
    clips_.setClipping(true);
    fillAlong();
    refresh();
    QWidget::showEvent(e);
}

void ClipPanel::hideEvent(QHideEvent* e) {
    clips_.setClipping(false);
    QWidget::hideEvent(e);
}

void ClipPanel::fillList() {
    const QSignalBlocker quiet(list_);
    list_->clear();
    for (const Shelf::KeptClip& k : house_.shelf.clips()) {
        QIcon picture{QPixmap(k.picture)};
        auto* item = new QListWidgetItem(picture.isNull() ? QIcon(":/icons/strata.svg") : picture, k.name, list_);
        item->setToolTip(k.own ? k.name : tr("%1 (came with the program)").arg(k.name));
    }
    list_->setVisible(list_->count() > 0);
}

void ClipPanel::fillAlong() {
    if (!isVisible() && along_->count() > 0) return;
    const int kept = std::max(along_->currentIndex(), 0);
    along_->clear();
    along_->addItem(tr("Once, where it lies"));
    along_->addItem(tr("Along a line of clicks"));
    for (const Stratum& s : house_.place.document.level().strata)
        if (s.leads()) along_->addItem(tr("Along %1").arg(QString::fromStdString(s.name)), s.id);
    along_->setCurrentIndex(std::min(kept, along_->count() - 1));
}

void ClipPanel::along(int choice) {
    clips_.setDrawsLine(choice == kClicks);
    if (choice < kFirstCourse) {
        clips_.setLine({});
        if (choice == kClicks) house_.services.say(tr("Click along the line; a double click or Enter ends it."));
        return refresh();
    }
    const Level& level = house_.place.document.level();
    std::vector<MapPlace> line;
    if (const int at = level.stratumIndex(along_->itemData(choice).toUInt()); at >= 0)
        line = courseLine(level, static_cast<size_t>(at));
    clips_.setLine(std::move(line));
}

void ClipPanel::refresh() {
    if (!isVisible()) return;
    const Document& document = house_.place.document;
    const bool held = clips_.held() != nullptr;
    lift_->setEnabled(document.level().fenced);
    keep_->setEnabled(clips_.last() != nullptr);
    const int row = list_->currentRow();
    remove_->setEnabled(row >= 0 && static_cast<size_t>(row) < house_.shelf.clips().size() &&
                        house_.shelf.clips()[static_cast<size_t>(row)].own);
    details_->setVisible(held);
    if (!held) {
        says_->setText(
            tr("Pull a rectangle over the ground to lift it, or choose a kept clip. With a fence, the button "
               "lifts what lies inside."));
        return;
    }
    const Level& clip = *clips_.held();
    const Placement& p = clips_.placement();
    says_->setText(tr("“%1”, %2 × %3 m. Drag it, or click where it is to lie.")
                       .arg(QString::fromStdString(clip.name))
                       .arg(clip.width() * p.scale, 0, 'f', 1)
                       .arg(clip.depth() * p.scale, 0, 'f', 1));
    x_->setValue(p.x);
    z_->setValue(p.z);
    turn_->setValue(std::remainder(p.turn, 360));
    scale_->setValue(100 * p.scale);
    heights_->setValue(100 * p.heightScale);
    raise_->setValue(p.raise);
    mirror_->setChecked(p.mirror);
    const SetDownWish& w = clips_.wish();
    feather_->setValue(w.feather);
    join_->setCurrentIndex(static_cast<int>(w.join));
    sit_->setChecked(w.sit);
    const bool wants[] = {w.heights, w.cover, w.wash, w.gaps, w.plantings};
    for (int i = 0; i < 5; ++i) parts_[i]->setChecked(wants[i]);
    parts_[1]->setEnabled(!clip.layers.empty());
    apart_->setChecked(!w.stratum.empty());
    if (clips_.line().empty() && !clips_.drawsLine()) along_->setCurrentIndex(kOnce);
    every_->setVisible(along_->currentIndex() != kOnce);
    every_->setValue(clips_.every());
    const Result<std::vector<Placement>> places = clips_.places();
    const QString trouble = clips_.trouble();
    trouble_->setStyleSheet(trouble.isEmpty() ? QString() : QString("color: %1;").arg(theme().warns.name()));
    trouble_->setText(!trouble.isEmpty()                    ? trouble
                      : places && places.value().size() > 1 ? tr("%1 times.").arg(places.value().size())
                                                            : QString());
    trouble_->setVisible(!trouble_->text().isEmpty());
    set_->setEnabled(trouble.isEmpty());
}

void ClipPanel::place(const std::shared_ptr<const Level>& clip) {
    const auto& at = house_.place.standpoint.seen();
    const Level& level = house_.place.document.level();
    Placement p;
    p.x = at ? at->x : level.originX + level.width() / 2;
    p.z = at ? at->z : level.originZ + level.depth() / 2;
    // What comes from elsewhere is laid on the ground there is; what is too large is made to fit.
    p.scale = std::clamp(0.9 * std::max(level.width() / clip->width(), level.depth() / clip->depth()), kMinClipScale,
                         1.0);
    clips_.hold(clip, p);
    clips_.change([&](SetDownWish& w) {
        w.sit = true;
        // Ground without layers comes from a heightmap, and is to be dimmed or taken away again later.
        if (clip->layers.empty()) w.stratum = clip->name;
    });
}

void ClipPanel::placeLast() {
    if (!clips_.last()) return house_.services.say(tr("No clip was lifted yet."));
    place(clips_.last());
}

void ClipPanel::take(size_t kept) {
    if (kept >= house_.shelf.clips().size()) return;
    const QString file = house_.shelf.clips()[kept].file;
    house_.work.start<Level>(
        tr("Reading"), [path = toPath(file)](const Context& c) { return loadLevel(path, c); },
        [this](Result<Level> read) {
            if (!read) return house_.services.refuse(read.error());
            if (isVisible()) place(std::make_shared<const Level>(read.take()));
        },
        true);
}

void ClipPanel::keep() {
    const QString name = name_->text().trimmed();
    if (!clips_.last()) return;
    if (name.isEmpty()) {
        house_.services.say(tr("Give it a name first."));
        return name_->setFocus();
    }
    Level clip = lightened(*clips_.last());
    clip.name = name.toStdString();
    if (const Status s = checkNames(clip); !s) return house_.services.say(QString::fromStdString(s.error().sentence()));
    if (house_.shelf.hasClip(name) &&
        !house_.services.ask(tr("There is a clip “%1” already.").arg(name), tr("Replace it"), tr("Keep it")))
        return;
    const QString file = house_.shelf.clipFile(name);
    QImage picture = clipPicture(clip, 2 * kPicture);
    house_.work.start<bool>(
        tr("Keeping the clip"),
        [clip = std::move(clip), picture, file](const Context& c) -> Result<bool> {
            if (const Status s = saveLevel(clip, toPath(file), c); !s) return s.error();
            if (!picture.isNull())
                picture.save(QFileInfo(file).path() + "/" + QFileInfo(file).completeBaseName() + ".png");
            return true;
        },
        [this, name](Result<bool> done) {
            if (!done) return house_.services.refuse(done.error());
            house_.shelf.clipsChanged();
            name_->clear();
            house_.services.say(tr("“%1” is kept and can be set down in every level.").arg(name));
        });
}

}  // namespace jam
