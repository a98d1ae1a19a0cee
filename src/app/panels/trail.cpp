#include "panels/trail.h"

#include <QAction>
#include <QHBoxLayout>
#include <QMenu>
#include <QPainter>
#include <QToolButton>

#include "looks/theme.h"
#include "workplace/standpoint.h"

namespace jam {

namespace {

constexpr int kHeight = 44, kPad = 9, kIcon = 20, kBesideIcon = 8, kDot = 7, kGap = 2, kMargin = 6;
constexpr int kLongestState = 290;  // longer ones are told on hover only

QFont nameFont(const QWidget& w) {
    QFont f = w.font();
    f.setPixelSize(scaled(13));
    f.setBold(true);
    return f;
}
QFont stateFont(const QWidget& w) {
    QFont f = w.font();
    f.setPixelSize(scaled(11));
    return f;
}

}  // namespace

StationButton::StationButton(const Station& station, QWidget* parent) : QWidget(parent), station_(station) {
    setCursor(Qt::PointingHandCursor);
    setFixedHeight(scaled(kHeight));
    setAccessibleName(station.title());
    refresh();
}

int StationButton::widthFor(Shows shows) const {
    const int name = QFontMetrics(nameFont(*this)).horizontalAdvance(station_.title()) + 1;
    const int beside = shows == Shows::name ? 0 : kIcon + kBesideIcon;
    const int state = QFontMetrics(stateFont(*this)).horizontalAdvance(state_.text) + 1;
    return 2 * kPad + beside + (shows == Shows::state ? std::max(name, state) : name + kDot + 4);
}

void StationButton::show(Shows shows) {
    shows_ = shows;
    QWidget::show();
    update();
}

bool StationButton::refresh() {
    const Station::State now = station_.state();
    if (now.text == state_.text && now.mood == state_.mood) return false;
    state_ = now;
    setToolTip(state_.text.isEmpty() ? station_.title() : station_.title() + ": " + state_.text);
    update();
    return true;
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
    const QColor mood = state_.mood == Station::Mood::passes  ? t.passes
                        : state_.mood == Station::Mood::warns ? t.warns
                                                              : t.quiet;
    int x = kPad;
    if (shows_ != Shows::name) {
        p.drawPixmap(QPointF(x, (height() - kIcon) / 2.0),
                     iconPixmap(station_.iconName(), kIcon, ink, devicePixelRatioF()));
        x += kIcon + kBesideIcon;
    }
    p.setFont(nameFont(*this));
    p.setPen(ink);
    const bool words = shows_ == Shows::state && !state_.text.isEmpty();
    p.drawText(QRectF(x, words ? scaled(6) : 0, width() - x, words ? scaled(16) : height()), Qt::AlignVCenter,
               station_.title());
    if (words) {
        p.setFont(stateFont(*this));
        p.setPen(active_ ? t.onActive : mood);
        p.drawText(QRectF(x, scaled(22), width() - x, scaled(15)), Qt::AlignVCenter, state_.text);
    } else if (!state_.text.isEmpty() && state_.mood != Station::Mood::plain) {
        p.setPen(active_ ? QPen(t.onActive, 1) : QPen(Qt::NoPen));
        p.setBrush(mood);
        p.drawEllipse(QPointF(width() - kPad - kDot / 2.0, height() / 2.0), kDot / 2.0, kDot / 2.0);
    }
}

// The state lies below the name; where it is a dot alone, a click on the present station means it.
void StationButton::mousePressEvent(QMouseEvent* e) {
    const bool words = shows_ == Shows::state && !state_.text.isEmpty();
    emit chosen(words ? e->position().y() > height() / 2.0 : active_);
}
void StationButton::enterEvent(QEnterEvent*) {
    under_ = true;
    update();
}
void StationButton::leaveEvent(QEvent*) {
    under_ = false;
    update();
}

Trail::Trail(const std::vector<std::unique_ptr<Station>>& stations, Standpoint& standpoint,
             const QList<QAction*>& atHand, QMenu* menu, QWidget* parent)
    : QWidget(parent) {
    setFixedHeight(scaled(kHeight));
    tools_ = new QWidget(this);
    auto* row = new QHBoxLayout(tools_);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(2);
    for (QAction* a : atHand) {
        auto* b = new QToolButton(tools_);
        b->setDefaultAction(a);
        b->setIconSize({20, 20});
        row->addWidget(b);
    }
    auto* more = new QToolButton(tools_);
    more->setObjectName("menu");
    setThemedIcon(more, "menu");
    more->setIconSize({20, 20});
    more->setToolTip(tr("New, open, save, keys and more"));
    more->setMenu(menu);
    more->setPopupMode(QToolButton::InstantPopup);
    more->setStyleSheet("QToolButton::menu-indicator { image: none; }");
    row->addWidget(more);

    const auto present = [this, &standpoint] {
        for (StationButton* b : buttons_) b->setActive(b->station().id() == standpoint.station());
        arrange();
    };
    for (const auto& s : stations) {
        auto* b = new StationButton(*s, this);
        buttons_.push_back(b);
        connect(b, &StationButton::chosen, this, [this, &standpoint, station = s.get()](bool onState) {
            standpoint.setStation(station->id());
            if (onState) emit stateChosen(station->id());
        });
        connect(s.get(), &Station::stateChanged, this, [this, b] {
            if (b->refresh()) arrange();
        });
    }
    connect(&standpoint, &Standpoint::stationChanged, this, present);
    present();
}

void Trail::openMenu() {
    const auto* b = findChild<QToolButton*>("menu");
    b->menu()->popup(b->mapToGlobal(QPoint(0, b->height())));
}

StationButton* Trail::station(const QByteArray& id) const {
    for (StationButton* b : buttons_)
        if (b->station().id() == id) return b;
    return nullptr;
}

// Names first, then icons, then as many states as there is room for: those that warn, the present station's, those that
// pass, and the others.
void Trail::arrange() {
    const QSize at = tools_->sizeHint();
    tools_->setGeometry(width() - at.width() - kMargin, (height() - at.height()) / 2, at.width(), at.height());
    const int room = width() - at.width() - 3 * kMargin;
    using Shows = StationButton::Shows;
    const auto total = [&](Shows shows) {
        int sum = 0;
        for (const StationButton* b : buttons_) sum += b->widthFor(shows) + kGap;
        return sum;
    };
    const bool icons = total(Shows::icon) <= room;
    int left = room - total(icons ? Shows::icon : Shows::name);
    std::vector<StationButton*> order = buttons_;
    const auto rank = [](const StationButton* b) {
        return b->mood() == Station::Mood::warns ? 0 : b->active() ? 1 : b->mood() == Station::Mood::passes ? 2 : 3;
    };
    std::stable_sort(order.begin(), order.end(), [&](auto* a, auto* b) { return rank(a) < rank(b); });
    for (StationButton* b : order) {
        b->show(icons ? Shows::icon : Shows::name);
        const int more = b->widthFor(Shows::state) - b->widthFor(Shows::icon);
        if (!icons || b->state().isEmpty() || more > left || b->widthFor(Shows::state) > scaled(kLongestState))
            continue;
        b->show(Shows::state);
        left -= more;
    }
    int x = kMargin;
    for (StationButton* b : buttons_) {
        const int w = b->widthFor(b->shows());
        b->setGeometry(x, 0, w, height());
        x += w + kGap;
    }
}

}  // namespace jam
