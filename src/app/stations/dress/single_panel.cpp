#include "stations/dress/single_panel.h"

#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QSignalBlocker>
#include <QToolButton>
#include <QVBoxLayout>

#include "dress/arrange.h"
#include "house/station.h"
#include "panels/number_field.h"
#include "panels/page.h"
#include "walk/on_top.h"

namespace jam {

SinglePanel::SinglePanel(House& house, QWidget* parent) : QWidget(parent), house_(house), edits_(house.place) {
    auto* column = pageColumn(this);
    column->setSpacing(5);
    says_ = quietLabel({}, this);
    column->addWidget(says_);
    details_ = new QWidget(this);
    auto* c = pageColumn(details_);
    c->setSpacing(5);
    auto* row = new QHBoxLayout;
    where_ = new QLabel(details_);
    where_->setObjectName("singleWhere");
    where_->setWordWrap(true);
    QToolButton* remove = iconButton("removeSingle", "remove", tr("Delete what is chosen"), details_);
    row->addWidget(where_, 1);
    row->addWidget(remove);
    c->addLayout(row);
    connect(remove, &QToolButton::clicked, this, [this] { edits_.removeChosen(); });
    auto* several = new QGridLayout;
    several->setSpacing(4);
    int place = 0;
    const struct {
        const char* id;
        QString text, tip, what;
        Status (*arrange)(Level&, const std::vector<uint32_t>&);
    } arrangements[] = {
        {"groupThem", tr("Group"), tr("They are chosen and moved together from now on"), tr("Group what stands"),
         groupSingles},
        {"dissolveGroup", tr("Ungroup"), tr("Each is chosen by itself again"), tr("Dissolve a group"), dissolveGroups},
        {"lineUp", tr("Line up"), tr("Evenly on a straight line from the first to the last that was chosen"),
         tr("Line up what stands"), lineUpSingles},
        {"alongCourse", tr("Along course"), tr("Each turned the way that the nearest course runs"),
         tr("Turn along the course"), turnAlongCourse},
        {"onTop", tr("On top"), tr("On to what stands below it and carries, or down to the ground"),
         tr("Put on top of what stands"), standOnTop}};
    for (const auto& a : arrangements) {
        auto* b = new QToolButton(details_);
        b->setObjectName(a.id);
        b->setText(a.text);
        b->setToolTip(a.tip);
        b->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
        connect(b, &QToolButton::clicked, this,
                [this, what = a.what, arrange = a.arrange] { edits_.arrangeChosen(what, arrange); });
        several->addWidget(b, place / 3, place % 3);
        ++place;
    }
    c->addLayout(several);
    becomes_ = new QComboBox(details_);
    becomes_->setObjectName("singleKind");
    becomes_->setAccessibleName(tr("The kind that they are"));
    becomes_->setToolTip(tr("They become another kind and stay where they are"));
    c->addWidget(becomes_);
    connect(becomes_, &QComboBox::activated, this, [this](int i) {
        edits_.editChosen(tr("Another kind of what stands"),
                          [id = becomes_->itemData(i).toUInt()](Single& s) { s.kind = id; });
    });
    const struct {
        NumberSpec spec;
        float Single::*value;
    } all[] = {
        {{"singleTurn", tr("Turned to"), tr("°"), {0, 359, 0}, tr("Clockwise from north")}, &Single::turn},
        {{"singleSize", tr("Size"), {}, {kLeastSize, kMostSize, 2, true}, tr("Times as large as its kind grows")},
         &Single::size},
        {{"singleAbove",
          tr("Above the ground"),
          tr(" m"),
          {-kMostSink, 50, 2},
          tr("Below it with a minus; where it stands on something, above")},
         &Single::above},
        {{"singleLean", tr("Leans by"), tr("°"), {0, 90, 0}}, &Single::lean},
        {{"singleLeanTo", tr("Leans to"), tr("°"), {0, 359, 0}, tr("Clockwise from north")}, &Single::leanTo}};
    for (const auto& a : all)
        fields_.push_back({addNumber(c, a.spec,
                                     [this, value = a.value, name = a.spec.name, id = a.spec.id](double v) {
                                         edits_.editChosen(
                                             tr("%1: one that stands").arg(name),
                                             [=](Single& s) { s.*value = static_cast<float>(v); }, id);
                                     }),
                           a.value});
    column->addWidget(details_);
    house.place.document.on(About::dress | About::history, this, &SinglePanel::refresh);
    connect(&house.place.standpoint, &Standpoint::chosenChanged, this, &SinglePanel::refresh);
    refresh();
}

void SinglePanel::showEvent(QShowEvent* e) {
    refresh();
    QWidget::showEvent(e);
}

void SinglePanel::refresh() {
    if (!isVisible()) return;
    const Level& level = house_.place.document.level();
    const auto& chosen = house_.place.standpoint.chosen();
    const Kind* k = chosen.empty() ? nullptr : level.kind(chosen.front().kind);
    details_->setVisible(k);
    says_->setText(k ? tr("Pull it over the ground to move it, press Del to delete it. What a hand changes stays where "
                          "it was put.")
                     : tr("With “Choose” at the bench, click what stands to choose it, with Shift several."));
    if (!k) return;
    const Planting& p = chosen.front().planting;
    where_->setText(
        chosen.size() == 1
            ? tr("%1 at x %2 m, z %3 m").arg(QString::fromStdString(k->name)).arg(p.x, 0, 'f', 1).arg(p.z, 0, 'f', 1)
            : tr("%1 are chosen").arg(chosen.size()));
    // As a single has it, or would.
    const Single* own = level.single(p.single);
    Single s;
    s.turn = p.turn, s.size = p.size, s.lean = p.lean, s.leanTo = p.leanTo;
    if (own) s = *own;
    for (const Field& f : fields_) f.field->setValue(s.*f.value);
    const QSignalBlocker quiet(becomes_);
    becomes_->clear();
    for (const Kind& o : level.kinds) becomes_->addItem(QString::fromStdString(o.name), o.id);
    becomes_->setCurrentIndex(becomes_->findData(k->id));
}

}  // namespace jam
