#include "stations/walk/body_fields.h"

#include <algorithm>
#include <QCheckBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QToolButton>
#include <QVBoxLayout>

#include "house/station.h"
#include "panels/number_field.h"
#include "panels/page.h"
#include "walk/reach.h"

namespace jam {

BodyFields::BodyFields(House& house, QWidget* parent) : QWidget(parent), house_(house), spots_(house.place) {
    auto* c = pageColumn(this);
    c->setSpacing(4);
    auto* row = new QHBoxLayout;
    name_ = new QLineEdit(this);
    name_->setAccessibleName(tr("Name of the body"));
    name_->setObjectName("bodyName");
    forget_ = iconButton("forgetBody", "remove", tr("Forget this one; the walker goes"), this);
    row->addWidget(name_, 1);
    row->addWidget(forget_);
    c->addLayout(row);
    const struct {
        NumberSpec spec;
        float Body::*value;
    } all[] = {
        {{"bodyHeight", tr("Height"), tr(" m"), {0.2, 10, 2, true}, tr("From sole to crown")}, &Body::height},
        {{"bodyRadius", tr("Girth"), tr(" m"), {0.05, 3, 2, true}, tr("Half its width: so far it keeps from walls")},
         &Body::radius},
        {{"bodyStep", tr("Steps up"), tr(" m"), {0, 3, 2}, tr("Without a jump")}, &Body::step},
        {{"bodySlope", tr("Climbs"), tr("°"), {1, 80, 0}, tr("The steepest ground that it can stand on")},
         &Body::slope},
        {{"bodyPace", tr("Walks"), tr(" m/s"), {0.1, 20, 1, true}}, &Body::pace},
        {{"bodyRun", tr("Runs"), tr(" m/s"), {0.1, 40, 1, true}}, &Body::run},
        {{"bodyJump", tr("Jumps"), tr(" m"), {0, 10, 2}, tr("How high")}, &Body::jump},
        {{"bodyWade", tr("Wades"), tr(" m"), {0, 5, 2}, tr("The depth of water that it can stand in")}, &Body::wade}};
    for (const auto& a : all) {
        auto* f = addNumber(c, a.spec, [this, value = a.value, id = QString(a.spec.id)](double v) {
            const bool done = spots_.editBody(
                [&](Body& b) {
                    b.*value = static_cast<float>(v);
                    // Who walks faster than it runs, runs as fast.
                    if (value == &Body::pace) b.run = std::max(b.run, b.pace);
                    if (value == &Body::run) b.pace = std::min(b.pace, b.run);
                },
                id);
            if (!done) refresh();
        });
        fields_.push_back({f, a.value});
    }
    swims_ = new QCheckBox(tr("Swims where it cannot stand"), this);
    swims_->setObjectName("bodySwims");
    c->addWidget(swims_);
    connect(swims_, &QCheckBox::clicked, this, [this](bool on) {
        if (!spots_.editBody([on](Body& b) { b.swims = on; })) refresh();
    });
    connect(name_, &QLineEdit::editingFinished, this, [this] {
        if (name_->text() == QString::fromStdString(house_.place.document.level().body)) return;
        if (!spots_.renameBody(name_->text())) refresh();
    });
    connect(forget_, &QToolButton::clicked, this, [this] { spots_.removeBody(); });
    house.place.document.on(About::spots, this, &BodyFields::refresh);
    refresh();
}

void BodyFields::refresh() {
    const Level& level = house_.place.document.level();
    const Body body = bodyOf(level);
    const bool own = SpotEdits::isOwn(level, body.name);
    if (!name_->hasFocus()) name_->setText(QString::fromStdString(body.name));
    name_->setReadOnly(!own);
    name_->setToolTip(
        own ? QString()
            : tr("One of the three that are always there. Change a number, and the level keeps one of its own."));
    forget_->setVisible(own);
    for (const Entry& e : fields_) e.field->setValue(static_cast<double>(body.*e.value));
    swims_->setChecked(body.swims);
}

}  // namespace jam
