#include "panels/first_minute.h"

#include <algorithm>
#include <glm/geometric.hpp>
#include <QHBoxLayout>
#include <QLabel>
#include <QSettings>
#include <QTimer>
#include <QToolButton>

#include "house/actions.h"
#include "looks/theme.h"
#include "looks/tool_looks.h"
#include "tools/tool.h"
#include "view/ground_view.h"

namespace jam {

namespace {
constexpr int kHeight = 30, kThanksMs = 6000;
const char* const kSetting = "firstMinute";
}  // namespace

FirstMinute::FirstMinute(Workplace& place, GroundView& view, const Actions& actions, QWidget* parent)
    : QWidget(parent), place_(place), view_(view), actions_(actions) {
    setFixedHeight(scaled(kHeight));
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(12, 0, 8, 0);
    row->setSpacing(22);
    for (QLabel*& step : steps_) {
        step = new QLabel(this);
        row->addWidget(step);
    }
    end_ = new QLabel(this);
    row->addWidget(end_);
    row->addStretch();
    auto* away = new QToolButton(this);
    away->setObjectName("putAway");
    setThemedIcon(away, "remove");
    away->setIconSize({14, 14});
    away->setToolTip(tr("Put this away; the menu brings it back"));
    row->addWidget(away);
    connect(away, &QToolButton::clicked, this, &FirstMinute::putAway);
    connect(&themeChanges(), &ThemeChanges::changed, this, &FirstMinute::write);
    // Another level is seen as a whole, which is not the hand's doing.
    place.document.on(About::raster, this, &FirstMinute::standStill, Qt::QueuedConnection);
    // Its history begins anew, which takes nothing back.
    place.document.on(About::raster, this, [this] { placeBefore_ = place_.document.history().place(); });
    for (const char* id : {"cover", "undo", "keys"}) connect(actions[id], &QAction::changed, this, &FirstMinute::write);
    connect(&view, &GroundView::cameraMoved, this, [this] {
        const Camera& c = view_.camera();
        if (glm::distance(c.at, at_) > 0.5 || std::abs(c.yaw - yaw_) + std::abs(c.pitch - pitch_) > 1) tick(move);
    });
    place.document.on(About::stroke, this,
                      [this] { tick(stationOf(place_.toolbox.tool()) == "shape" ? shape : paint); });
    place.document.on(About::history, this, [this] {
        const size_t now = place_.document.history().place();
        if (now < placeBefore_) tick(takeBack);
        placeBefore_ = now;
    });
    setVisible(wanted());
    standStill();
    write();
}

bool FirstMinute::wanted() { return !QSettings().value(kSetting, false).toBool(); }

void FirstMinute::begin() {
    QSettings().setValue(kSetting, false);
    done_ = {};
    standStill();
    write();
    show();
}

void FirstMinute::standStill() {
    const Camera& c = view_.camera();
    at_ = c.at, yaw_ = c.yaw, pitch_ = c.pitch;
    placeBefore_ = place_.document.history().place();
}

void FirstMinute::tick(Step step) {
    if (isHidden() || done_[step]) return;
    done_[step] = true;
    write();
    if (!std::all_of(done_.begin(), done_.end(), [](bool d) { return d; })) return;
    QSettings().setValue(kSetting, true);
    QTimer::singleShot(kThanksMs, this, [this] {
        if (!wanted()) hide();
    });
}

void FirstMinute::putAway() {
    QSettings().setValue(kSetting, true);
    hide();
}

void FirstMinute::write() {
    const auto key = [this](const char* id) { return actions_[id]->shortcut().toString(QKeySequence::NativeText); };
    const QString words[kSteps] = {
        tr("<b>Move</b>: W A S D, right drag, wheel"), tr("<b>Shape</b>: drag on the ground"),
        tr("<b>Paint</b>: %1, then drag").arg(key("cover")), tr("<b>Take back</b>: %1").arg(key("undo"))};
    for (int i = 0; i < kSteps; ++i) {
        const QColor ink = done_[i] ? theme().passes : theme().text;
        steps_[i]->setText(QString("<span style='color:%1'>%2&nbsp; %3</span>")
                               .arg(ink.name(), done_[i] ? QString::fromUtf8("✓") : QString::fromUtf8("○"), words[i]));
    }
    end_->setText(tr("That is all it takes. %1 shows every key.").arg(key("keys")));
    end_->setVisible(std::all_of(done_.begin(), done_.end(), [](bool d) { return d; }));
}

}  // namespace jam
