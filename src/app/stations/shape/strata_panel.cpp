#include "stations/shape/strata_panel.h"

#include <cmath>
#include <QHBoxLayout>
#include <QHelpEvent>
#include <QInputDialog>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QToolButton>
#include <QToolTip>
#include <QVBoxLayout>

#include "cover/course_layers.h"
#include "edits/course_edits.h"
#include "house/station.h"
#include "level/strata.h"
#include "looks/theme.h"
#include "panels/number_field.h"
#include "panels/page.h"
#include "workplace/workplace.h"

namespace jam {

namespace {

constexpr int kRow = 34, kSide = 26, kEye = 18, kGap = 6;

QString nameOf(const Stratum& s) { return QString::fromStdString(s.name); }

// A change of one stratum, wherever it lies by then.
std::function<Status(Level&)> onStratum(uint32_t id, const std::function<void(Stratum&)>& change) {
    return [=](Level& l) -> Status {
        Stratum* s = l.stratum(id);
        if (!s) return goneError(ThingKind::stratum);
        change(*s);
        return {};
    };
}

}  // namespace

QImage stratumPicture(const Stratum& s, int side) {
    QImage picture(side, side, QImage::Format_RGB32);
    const int w = s.heights.columns(), d = s.heights.rows(), most = std::max(w, d);
    const auto at = [&](int x, int y, const TiledGrid<float>& grid) {
        // The level's longer side fills the picture.
        const int c = (x * most + most / 2) / side - (most - w) / 2, r = (y * most + most / 2) / side - (most - d) / 2;
        return c < 0 || r < 0 || c >= w || r >= d ? NAN : grid.at(c, r);
    };
    float tallest = 1e-3f;
    for (int y = 0; y < side; ++y)
        for (int x = 0; x < side; ++x)
            if (const float h = at(x, y, s.heights); !std::isnan(h)) tallest = std::max(tallest, std::abs(h));
    const QColor back = theme().back, ink = theme().brush;
    for (int y = 0; y < side; ++y)
        for (int x = 0; x < side; ++x) {
            const float h = at(x, y, s.heights);
            QColor c = back;
            if (!std::isnan(h)) {
                // The root lets low forms show beside high ones.
                const float rise = std::copysign(std::sqrt(std::abs(h) / tallest), h);
                c = QColor::fromHsvF(0.09f, 0.12f, std::clamp(0.5f + 0.42f * rise, 0.f, 1.f));
                if (s.course) {
                    const float owned = at(x, y, s.owned);
                    c = owned > 0 ? ink : back.lighter(130);
                }
            }
            picture.setPixelColor(x, y, c);
        }
    return picture;
}

// --- the list -----------------------------------------------------------------------------------------------------

StrataList::StrataList(Workplace& place, QWidget* parent) : Pulled(place.document, parent), place_(place) {
    setFocusPolicy(Qt::StrongFocus);
    const auto again = [this] {
        setFixedHeight(sizeHint().height());
        update();
    };
    place.document.on(About::strata | About::history, this, again);
    again();
}

int StrataList::count() const { return static_cast<int>(place_.document.level().strata.size()); }
QSize StrataList::sizeHint() const { return {160, count() * scaled(kRow)}; }
uint32_t StrataList::chosen() const {
    const Level& level = place_.document.level();
    const Stratum* s = level.stratum(picked_);
    return s && s->mixes() ? picked_ : level.activeStratum;
}

QRect StrataList::entry(int place) const { return {0, (count() - 1 - place) * scaled(kRow), width(), scaled(kRow)}; }
QRect StrataList::eye(int place) const {
    const QRect r = entry(place);
    return {r.right() - kEye - kGap, r.center().y() - kEye / 2, kEye, kEye};
}
int StrataList::placeAt(const QPoint& pixel) const {
    for (int i = 0; i < count(); ++i)
        if (entry(i).contains(pixel)) return i;
    return -1;
}

void StrataList::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    const qreal ratio = devicePixelRatioF();
    QFont small = font();
    small.setPixelSize(scaled(11));
    for (int i = 0; i < count(); ++i) {
        const Stratum& s = place_.document.level().strata[static_cast<size_t>(i)];
        const QRect r = entry(i);
        const bool active = s.id == chosen();
        if (active) {
            p.setPen(Qt::NoPen);
            p.setBrush(t.active);
            p.drawRoundedRect(QRectF(r).adjusted(0, 1, 0, -1), 5, 5);
        }
        const QColor ink = active ? t.onActive : s.visible ? t.text : t.quiet, quiet = active ? t.onActive : t.quiet;
        QImage picture = stratumPicture(s, static_cast<int>(kSide * ratio));
        picture.setDevicePixelRatio(ratio);
        p.setOpacity(s.visible ? 1 : 0.4);
        p.drawImage(QPointF(r.x() + kGap, r.center().y() - kSide / 2.0), picture);
        p.setOpacity(1);
        const int x = r.x() + 2 * kGap + kSide, wide = eye(i).left() - kGap - x;
        p.setFont(font());
        p.setPen(ink);
        p.drawText(QRect(x, r.y() + scaled(2), wide, scaled(16)), Qt::AlignVCenter,
                   p.fontMetrics().elidedText(nameOf(s), Qt::ElideRight, wide));
        p.setFont(small);
        p.setPen(quiet);
        QStringList words{s.visible ? tr("%1 %").arg(std::lround(100 * s.opacity)) : tr("hidden")};
        if (s.leads()) words << tr("course");
        else if (s.course) words << (s.course->footprint ? tr("footprint") : tr("pad"));
        if (s.border) words << tr("border");
        if (s.locked) words << tr("protected");
        p.drawText(QRect(x, r.y() + scaled(17), wide, scaled(14)), Qt::AlignVCenter, words.join(" · "));
        p.drawPixmap(eye(i).topLeft(), iconPixmap(s.visible ? "eye" : "eye-off", kEye, ink, ratio));
    }
    if (dropAt_ >= 0) p.fillRect(QRect(0, dropAt_ * scaled(kRow) - 1, width(), 3), t.brush);
    if (hasFocus()) {
        p.setPen(t.brush);
        p.setBrush(Qt::NoBrush);
        p.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 5, 5);
    }
}

void StrataList::choose(int place) {
    const Stratum& s = place_.document.level().strata[static_cast<size_t>(place)];
    picked_ = s.mixes() ? s.id : 0;
    update();
    emit picked();
    if (s.course && s.course->footprint)
        return place_.tell(
            tr("“%1” is the even ground under what stands, and is changed with its kind, at Dress.").arg(nameOf(s)));
    if (s.course && !s.leads())
        return place_.tell(tr("“%1” is the even ground under a spot, and is changed there, at Walk.").arg(nameOf(s)));
    if (s.course) {
        place_.standpoint.setCourse(s.id);
        return place_.tell(tr("“%1” is a course: its posts are found under Courses.").arg(nameOf(s)));
    }
    if (s.border) return place_.tell(tr("“%1” fits the ground to a neighbour; Lay out fits it anew.").arg(nameOf(s)));
    place_.document.chooseStratum(place_.document.level().strata[static_cast<size_t>(place)].id);
}

void StrataList::turnEye(int place) {
    const Stratum& s = place_.document.level().strata[static_cast<size_t>(place)];
    place_.document.tryEdit((s.visible ? tr("Hide %1") : tr("Show %1")).arg(nameOf(s)),
                            onStratum(s.id, [](Stratum& x) { x.visible = !x.visible; }));
}

bool StrataList::take(const QPointF& pixel) {
    const QPoint at = pixel.toPoint();
    const int i = placeAt(at);
    if (i < 0) return false;
    if (eye(i).adjusted(-kGap, -kGap, kGap, kGap).contains(at)) {
        turnEye(i);
        return false;
    }
    dragged_ = place_.document.level().strata[static_cast<size_t>(i)].id;
    pressed_ = at;
    choose(i);
    return true;
}

void StrataList::pull(const QPointF& pixel) {
    const QPoint at = pixel.toPoint();
    if ((at - pressed_).manhattanLength() < 10) return;
    dropAt_ = std::clamp((at.y() + scaled(kRow) / 2) / scaled(kRow), 0, count());
    update();
}

void StrataList::end(bool keep) {
    const uint32_t id = std::exchange(dragged_, 0);
    const int row = std::exchange(dropAt_, -1), from = place_.document.level().stratumIndex(id);
    if (!keep || from < 0 || row < 0) return;
    // Rows count from the top, places from the bottom.
    const int gap = count() - row, to = std::clamp(gap > from ? gap - 1 : gap, 0, count() - 1);
    if (to == from) return;
    place_.document.tryEdit(tr("Reorder strata"), [id, to](Level& l) { return moveStratum(l, id, to); });
}

void StrataList::mouseDoubleClickEvent(QMouseEvent* e) {
    const int i = placeAt(e->pos());
    if (i >= 0 && !eye(i).contains(e->pos()))
        emit nameWanted(place_.document.level().strata[static_cast<size_t>(i)].id);
}

void StrataList::keyPressEvent(QKeyEvent* e) {
    const int at = place_.document.level().stratumIndex(chosen());
    const int step = e->key() == Qt::Key_Up ? 1 : e->key() == Qt::Key_Down ? -1 : 0;
    if (step && at + step >= 0 && at + step < count()) return choose(at + step);
    if (e->key() == Qt::Key_Space && at >= 0) return turnEye(at);
    QWidget::keyPressEvent(e);
}

bool StrataList::event(QEvent* e) {
    if (e->type() != QEvent::ToolTip) return QWidget::event(e);
    const auto* help = static_cast<QHelpEvent*>(e);
    const int i = placeAt(help->pos());
    if (i >= 0)
        QToolTip::showText(
            help->globalPos(),
            eye(i).contains(help->pos())
                ? tr("Show or hide")
                : tr("%1. Brushes go to the one that is chosen. Drag to reorder; a double click names it.")
                      .arg(nameOf(place_.document.level().strata[static_cast<size_t>(i)])),
            this);
    return true;
}

// --- the panel ----------------------------------------------------------------------------------------------------

StrataPanel::StrataPanel(House& house, QWidget* parent) : QWidget(parent), house_(house), place_(house.place) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    list_ = new StrataList(place_, this);
    list_->setObjectName("strata");
    column->addWidget(list_);
    opacity_ = new NumberField(tr("Shows"), " %", {0, 100.0 * kMaxOpacity, 0}, this);
    opacity_->setObjectName("stratumOpacity");
    opacity_->setToolTip(tr("How much of it counts: 50 % is half as high, 200 % twice"));
    column->addWidget(opacity_);
    auto* row = new QHBoxLayout;
    row->setSpacing(2);
    row->addWidget(button("addStratum", "add", tr("Add a stratum over the chosen one"), &StrataPanel::add));
    row->addWidget(
        button("duplicateStratum", "copy", tr("Duplicate; the copy begins hidden"), &StrataPanel::duplicate));
    mergeDown_ = button("mergeStratum", "merge-down", tr("Merge into the one below; the ground stays as it is"),
                        &StrataPanel::mergeDown);
    row->addWidget(mergeDown_);
    takeStep_ = button("takeStep", "take-step", tr("Move what the last step shaped into the chosen stratum"),
                       &StrataPanel::takeStep);
    row->addWidget(takeStep_);
    protect_ = button("protectStratum", "lock", tr("Protect it from every change"), &StrataPanel::protect);
    protect_->setCheckable(true);
    row->addWidget(protect_);
    remove_ = button("removeStratum", "remove", tr("Delete it, and what it adds"), &StrataPanel::remove);
    row->addWidget(remove_);
    row->addStretch();
    column->addLayout(row);
    connect(list_, &StrataList::picked, this, &StrataPanel::refresh);
    connect(list_, &StrataList::nameWanted, this, &StrataPanel::rename);
    connect(opacity_, &NumberField::changed, this, [this](double percent) {
        const Stratum* s = chosen();
        if (!s) return;
        place_.document.tryEdit(tr("Dim %1").arg(nameOf(*s)),
                                onStratum(s->id,
                                          [percent](Stratum& changed) {
                                              // None owns more than all of the ground.
                                              const double most = changed.mixes() ? 1 : kMaxOpacity;
                                              changed.opacity = static_cast<float>(std::min(percent / 100, most));
                                          }),
                                QString("opacity %1").arg(s->id));
    });
    place_.document.on(About::strata | About::history, this, &StrataPanel::refresh);
    refresh();
}

QToolButton* StrataPanel::button(const char* id, const char* iconName, const QString& tip, void (StrataPanel::*act)()) {
    QToolButton* b = iconButton(id, iconName, tip, this);
    connect(b, &QToolButton::clicked, this, act);
    return b;
}

const Stratum* StrataPanel::chosen() const { return place_.document.level().stratum(list_->chosen()); }
int StrataPanel::placeOfChosen() const { return place_.document.level().stratumIndex(list_->chosen()); }

void StrataPanel::refresh() {
    const Stratum* s = chosen();
    if (!s) return;
    opacity_->setValue(100.0 * s->opacity);
    protect_->setChecked(s->locked);
    mergeDown_->setEnabled(placeOfChosen() > 0);
    takeStep_->setEnabled(!s->mixes() && place_.document.history().canUndo());
}

void StrataPanel::add() {
    const Level& level = place_.document.level();
    if (level.strata.size() >= kMaxStrata)
        return house_.services.say(tr("A level has at most %1 strata; merge some first.").arg(kMaxStrata));
    const std::string name = tr("Stratum %1").arg(level.strata.size() + 1).toStdString();
    place_.document.edit(tr("Add a stratum"), [&, over = list_->chosen()](Level& l) {
        l.activeStratum = addStratum(l, name, l.stratumIndex(over));
    });
    refresh();
}

void StrataPanel::duplicate() {
    const auto copy = [id = list_->chosen()](Level& l) -> Status {
        const Result<uint32_t> made = duplicateStratum(l, id);
        if (!made) return made.error();
        return {};
    };
    if (!place_.document.tryEdit(tr("Duplicate %1").arg(nameOf(*chosen())), copy)) return;
    house_.services.say(tr("The copy is hidden, because ground that is added twice would stand twice as high."));
}

void StrataPanel::mergeDown() {
    place_.document.tryEdit(tr("Merge %1 down").arg(nameOf(*chosen())),
                            [id = list_->chosen()](Level& l) { return mergeStratumDown(l, id); });
}

void StrataPanel::remove() {
    if (chosen()->leads()) {
        // With the layers that it laid.
        place_.standpoint.setCourse(list_->chosen());
        return CourseEdits(place_).remove();
    }
    place_.document.tryEdit(tr("Delete %1").arg(nameOf(*chosen())), [id = list_->chosen()](Level& l) {
        // Layers that the ground under something brought go with it.
        if (const Stratum* s = l.stratum(id); s && s->course) layOnCourse(l, id, 0, 0);
        return removeStratum(l, id);
    });
}

void StrataPanel::protect() {
    const Stratum& s = *chosen();
    place_.document.tryEdit((s.locked ? tr("Let %1 go") : tr("Protect %1")).arg(nameOf(s)),
                            onStratum(s.id, [](Stratum& x) { x.locked = !x.locked; }));
    refresh();
}

void StrataPanel::takeStep() {
    const History& history = place_.document.history();
    if (!history.canUndo()) return;
    const Level& before = history.entries()[history.place() - 1].level;
    if (!sameRaster(before, history.now()))
        return house_.services.say(tr("The last step gave the level another size; it cannot be moved."));
    place_.document.tryEdit(tr("Move the step to %1").arg(nameOf(*chosen())),
                            [&, id = list_->chosen()](Level& l) -> Status {
                                Result<Level> moved = moveShaping(l, before, id);
                                if (!moved) return moved.error();
                                l = moved.take();
                                return {};
                            });
}

void StrataPanel::rename(uint32_t id) {
    const Stratum* s = place_.document.level().stratum(id);
    if (!s) return;
    bool ok = false;
    const QString name = QInputDialog::getText(house_.services.window(), tr("Name the stratum"), tr("Name"),
                                               QLineEdit::Normal, nameOf(*s), &ok)
                             .trimmed();
    if (!ok || name.isEmpty()) return;
    place_.document.tryEdit(tr("Name a stratum"), onStratum(id, [&](Stratum& x) { x.name = name.toStdString(); }));
}

}  // namespace jam
