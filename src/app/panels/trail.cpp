#include "panels/trail.h"

#include <QAction>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QPainter>
#include <QPainterPath>
#include <QProgressBar>
#include <QToolButton>

#include "jobs.h"
#include "surveyor.h"
#include "theme.h"

namespace jam {

StationButton::StationButton(const QString& name, const QString& iconName, QWidget* parent) : QWidget(parent), name_(name), icon_(iconName) {
    setCursor(Qt::PointingHandCursor);
    setFixedHeight(44);
}

QSize StationButton::sizeHint() const {
    QFont bold = font();
    bold.setPixelSize(13);
    bold.setBold(true);
    QFont small = font();
    small.setPixelSize(11);
    return {std::max(QFontMetrics(bold).horizontalAdvance(name_), std::min(QFontMetrics(small).horizontalAdvance(state_), 190)) + 48, 44};
}

void StationButton::setState(const QString& text, Mood mood) {
    if (text == state_ && mood == mood_) return;
    state_ = text;
    mood_ = mood;
    setToolTip(text);
    updateGeometry();
    update();
}

void StationButton::setActive(bool active) {
    active_ = active;
    update();
}

void StationButton::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    const QRectF r = QRectF(rect()).adjusted(1, 3, -1, -3);
    if (active_ || under_) {
        p.setPen(Qt::NoPen);
        p.setBrush(active_ ? t.active : t.raised);
        p.drawRoundedRect(r, 6, 6);
    }
    const QColor ink = active_ ? t.onActive : t.text;
    p.drawPixmap(QPointF(8, 12), iconPixmap(icon_, 20, ink, devicePixelRatioF()));
    QFont f = font();
    f.setPixelSize(13);
    f.setBold(true);
    p.setFont(f);
    p.setPen(ink);
    p.drawText(QRectF(36, 6, width() - 40, 16), Qt::AlignVCenter, name_);
    f.setPixelSize(11);
    f.setBold(false);
    p.setFont(f);
    p.setPen(active_ ? t.onActive : mood_ == Mood::passes ? t.passes : mood_ == Mood::warns ? t.warns : t.quiet);
    p.drawText(QRectF(36, 22, width() - 42, 15), Qt::AlignVCenter, p.fontMetrics().elidedText(state_, Qt::ElideRight, width() - 42));
}

void StationButton::mousePressEvent(QMouseEvent*) { emit chosen(); }
void StationButton::enterEvent(QEnterEvent*) { under_ = true; update(); }
void StationButton::leaveEvent(QEvent*) { under_ = false; update(); }

Trail::Trail(Session& session, const Surveyor& surveyor, Jobs& jobs, const QList<QAction*>& atHand, QMenu* menu, QWidget* parent)
    : QWidget(parent), session_(session), surveyor_(surveyor) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(6, 0, 6, 0);
    row->setSpacing(2);
    const std::pair<QString, const char*> names[] = {{tr("Lay out"), "lay-out"}, {tr("Shape"), "shape"}, {tr("Cover"), "cover"}, {tr("Light"), "light"}, {tr("Hand over"), "hand-over"}};
    for (int i = 0; i < 5; ++i) {
        stations_[i] = new StationButton(names[i].first, names[i].second, this);
        row->addWidget(stations_[i]);
        connect(stations_[i], &StationButton::chosen, this, [this, i] { session_.setStation(static_cast<Station>(i)); });
    }
    row->addStretch();

    job_ = new QWidget(this);
    auto* jobRow = new QHBoxLayout(job_);
    jobRow->setContentsMargins(0, 0, 8, 0);
    jobName_ = new QLabel(job_);
    jobBar_ = new QProgressBar(job_);
    jobBar_->setTextVisible(false);
    jobBar_->setFixedSize(110, 6);
    auto* stop = new QToolButton(job_);
    stop->setText(tr("Cancel"));
    jobRow->addWidget(jobName_);
    jobRow->addWidget(jobBar_);
    jobRow->addWidget(stop);
    row->addWidget(job_);
    job_->hide();
    connect(stop, &QToolButton::clicked, this, [&jobs] { jobs.cancel(); });
    connect(&jobs, &Jobs::started, this, [this, &jobs] { jobName_->setText(jobs.what()); jobBar_->setValue(0); job_->show(); });
    connect(&jobs, &Jobs::progressed, this, [this](double share) { jobBar_->setValue(static_cast<int>(share * 100)); });
    connect(&jobs, &Jobs::finished, this, [this] { job_->hide(); });

    for (QAction* a : atHand) {
        auto* b = new QToolButton(this);
        b->setDefaultAction(a);
        b->setIconSize({20, 20});
        row->addWidget(b);
    }
    auto* more = new QToolButton(this);
    more->setObjectName("menu");
    more->setIcon(icon("menu"));
    more->setIconSize({20, 20});
    more->setToolTip(tr("New, open, save, keys and more"));
    more->setMenu(menu);
    more->setPopupMode(QToolButton::InstantPopup);
    more->setStyleSheet("QToolButton::menu-indicator { image: none; }");
    row->addWidget(more);

    for (const auto signal : {&Session::edited, &Session::stationChanged, &Session::opened}) connect(&session, signal, this, &Trail::tell);
    connect(&surveyor, &Surveyor::found, this, &Trail::tell);
    tell();
}

void Trail::noteHandedOver() {
    handedOver_ = session_.history().serial();
    tell();
}

void Trail::tell() {
    using Mood = StationButton::Mood;
    const Level& l = session_.level();
    for (int i = 0; i < 5; ++i) stations_[i]->setActive(session_.station() == static_cast<Station>(i));
    station(Station::layOut)->setState(tr("%1 × %2 m, every %3 m").arg(l.width()).arg(l.depth()).arg(l.spacing), Mood::plain);
    station(Station::light)->setState(tr("sun %1° high, from %2°").arg(std::lround(l.sun.elevation)).arg(std::lround(l.sun.azimuth)), Mood::plain);
    const bool same = handedOver_ == session_.history().serial();
    station(Station::handOver)->setState(same ? tr("as handed over") : handedOver_ ? tr("changed since") : tr("not handed over yet"), same ? Mood::passes : Mood::plain);
    const auto& f = surveyor_.findings();
    if (!f) return;
    const GroundFigures& r = f->relief;
    station(Station::shape)->setState(tr("%1 to %2 m, up to %3°").arg(r.lowest, 0, 'f', 0).arg(r.highest, 0, 'f', 0).arg(r.steepest, 0, 'f', 0), Mood::plain);
    int unused = 0;
    for (size_t i = 0; i < l.layers.size(); ++i) unused += f->shares[i] < 1e-5;
    station(Station::cover)->setState(unused == 0 ? tr("%1 layers, all used").arg(l.layers.size())
                                                  : tr("%1 of %2 layers unused").arg(unused).arg(l.layers.size()), unused ? Mood::plain : Mood::passes);
}

}  // namespace jam
