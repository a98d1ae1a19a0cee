#include "stations/shape/course_panel.h"

#include <cmath>
#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QSignalBlocker>
#include <QToolButton>
#include <QVBoxLayout>

#include "base/maths.h"
#include "cover/course_layers.h"
#include "house/station.h"
#include "looks/theme.h"
#include "panels/number_field.h"
#include "panels/page.h"
#include "view/ground_view.h"

namespace jam {

CoursePanel::CoursePanel(House& house, QWidget* parent)
    : QWidget(parent), house_(house), place_(house.place), courses_(house.place) {
    auto* column = pageColumn(this);
    column->setSpacing(4);
    says_ = quietLabel({}, this);
    column->addWidget(says_);
    auto* buttons = new QHBoxLayout;
    buttons->setSpacing(2);
    which_ = new QComboBox(this);
    which_->setAccessibleName(tr("Course"));
    which_->setObjectName("courses");
    which_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    which_->setMinimumContentsLength(6);
    column->addWidget(which_);
    const auto button = [&](const char* id, const char* iconName, const QString& tip, std::function<void()> act) {
        QToolButton* b = iconButton(id, iconName, tip, this);
        connect(b, &QToolButton::clicked, this, act);
        buttons->addWidget(b);
    };
    button("newCourse", "course-new", tr("Begin another course: press at its foot, pull to its head"),
           [this] { place_.standpoint.setCourse(0); });
    button("insertPost", "post-insert", tr("Insert a post after the chosen one"),
           [this] { courses_.insertAfter(place_.standpoint.post()); });
    button("removePost", "post-remove", tr("Delete the chosen post"),
           [this] { courses_.removePost(place_.standpoint.post()); });
    button("removeCourse", "remove", tr("Delete the course; the ground under it comes back"),
           [this] { courses_.remove(); });
    buttons->addStretch();
    column->addLayout(buttons);
    connect(which_, &QComboBox::activated, this,
            [this](int i) { place_.standpoint.setCourse(which_->itemData(i).toUInt()); });

    details_ = new QWidget(this);
    auto* c = pageColumn(details_);
    c->setSpacing(4);
    use_ = new QComboBox(details_);
    use_->setAccessibleName(tr("What the course does"));
    use_->setObjectName("courseUse");
    use_->addItems({tr("Grades a road or ramp"), tr("Carves a stream's bed"), tr("Banks a wall or dyke")});
    c->addWidget(use_);
    connect(use_, &QComboBox::activated, this, [this](int i) {
        edit(tr("Use of a course"), [i](Course& x) {
            x.use = static_cast<CourseUse>(i);
            // A bank's heights are above the ground, the others' above nought.
            for (Post& p : x.posts) {
                if (x.use == CourseUse::bank) p.height = 2;
                else p.height.reset();
            }
        });
    });
    auto* ways = new QHBoxLayout;
    ways->setSpacing(2);
    const auto check = [&](const char* id, const QString& name, const QString& tip, bool Course::*flag) {
        auto* b = new QCheckBox(name, details_);
        b->setObjectName(id);
        b->setToolTip(tip);
        connect(b, &QCheckBox::clicked, this,
                [this, flag, name](bool on) { edit(name, [flag, on](Course& x) { x.*flag = on; }); });
        ways->addWidget(b);
        return b;
    };
    smooth_ = check("courseSmooth", tr("Curve"), tr("A smooth curve through the posts; otherwise straight legs"),
                    &Course::smooth);
    closed_ = check("courseClosed", tr("Closed"), tr("The last post leads back to the first"), &Course::closed);
    meets_ = check("courseMeets", tr("Meets"),
                   tr("Where it crosses courses below, it runs at their height; otherwise over them"), &Course::meets);
    c->addLayout(ways);
    figures_ = new QLabel(details_);
    figures_->setObjectName("courseFigures");
    figures_->setWordWrap(true);
    c->addWidget(figures_);
    makePosts(c);
    column->addWidget(details_);
    column->addStretch();
    place_.document.on(About::layers | About::strata | About::history | About::preview, this, &CoursePanel::refresh);
    connect(&place_.standpoint, &Standpoint::courseChosen, this, &CoursePanel::refresh);
    refresh();
}

void CoursePanel::makePosts(QVBoxLayout* c) {
    c->addWidget(headingLabel(tr("The post"), details_));
    free_ = new QCheckBox(tr("Follows the ground"), details_);
    free_->setObjectName("postFree");
    free_->setToolTip(tr("The post stands at the height of the ground below the course"));
    c->addWidget(free_);
    connect(free_, &QCheckBox::clicked, this, [this](bool on) {
        const auto height = static_cast<float>(height_->value());
        editPost(
            tr("Height of a post"), [=](Post& p) { on ? p.height.reset() : void(p.height = height); }, {}, false);
    });
    const auto post = [&](const NumberSpec& spec, bool mayAll, void (*set)(Post&, float)) {
        return addNumber(c, spec, [this, name = spec.name, set, mayAll](double v) {
            editPost(
                tr("%1 of a post").arg(name), [set, v](Post& p) { set(p, static_cast<float>(v)); }, "post " + name,
                mayAll);
        });
    };
    height_ = post({"postHeight", tr("Height"), tr(" m"), {-10000, 10000, 2}}, false,
                   [](Post& p, float v) { p.height = v; });
    auto* alike = new QCheckBox(tr("All posts alike"), details_);
    alike->setObjectName("postsAlike");
    alike->setToolTip(tr("Width, shoulders and banking are set for all posts at once"));
    alike->setChecked(place_.standpoint.postsAlike());
    connect(alike, &QCheckBox::toggled, this, [this](bool on) { place_.standpoint.setPostsAlike(on); });
    c->addWidget(alike);
    width_ = post({"postWidth", tr("Width"), tr(" m"), {kMinCourseWidth, 60, 1, true}}, true,
                  [](Post& p, float v) { p.width = v; });
    shoulder_ = post({"postShoulder", tr("Shoulders"), tr(" m"), {0, 60, 1}}, true,
                     [](Post& p, float v) { p.shoulder = v; });
    banking_ = post({"postBanking",
                     tr("Banking"),
                     tr("°"),
                     {-kMaxBanking, kMaxBanking, 1},
                     tr("How far it rises to the right, looking along")},
                    true, [](Post& p, float v) { p.banking = v; });
    const auto layer = [&](const char* id, const QString& name) {
        auto* row = new QHBoxLayout;
        auto* box = new QComboBox(details_);
        box->setObjectName(id);
        box->setAccessibleName(name);
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        box->setMinimumContentsLength(6);
        row->addWidget(new QLabel(name, details_));
        row->addWidget(box, 1);
        c->addLayout(row);
        connect(box, &QComboBox::activated, this,
                [this] { layers(track_->currentData().toUInt(), verge_->currentData().toUInt()); });
        return box;
    };
    track_ = layer("courseTrack", tr("On it lies"));
    verge_ = layer("courseVerge", tr("Beside it"));
}

void CoursePanel::showEvent(QShowEvent* e) {
    place_.standpoint.setFenceWay(FenceWay::none);
    place_.standpoint.setCoursing(true);
    refresh();
    QWidget::showEvent(e);
}

void CoursePanel::hideEvent(QHideEvent* e) {
    place_.standpoint.setCoursing(false);
    QWidget::hideEvent(e);
}

void CoursePanel::edit(const QString& what, const std::function<void(Course&)>& change, const QString& gesture) {
    if (courses_.chosen()) courses_.edit(what, place_.standpoint.course(), change, gesture);
    refresh();  // what was refused is shown as it was
}

void CoursePanel::editPost(const QString& what, const std::function<void(Post&)>& change, const QString& gesture,
                           bool mayAll) {
    const int post = place_.standpoint.post();
    const bool all = mayAll && place_.standpoint.postsAlike();
    edit(
        what,
        [&](Course& x) {
            for (int i = 0; i < static_cast<int>(x.posts.size()); ++i)
                if (all || i == post) change(x.posts[static_cast<size_t>(i)]);
        },
        gesture);
}

void CoursePanel::layers(uint32_t track, uint32_t verge) {
    const uint32_t id = place_.standpoint.course();
    if (!courses_.chosen()) return;
    std::vector<Thing> of{{ThingKind::course, id}};
    for (const uint32_t layer : {track, verge})
        if (layer) of.push_back({ThingKind::layer, layer});
    house_.services.workOn(tr("Layers of a course"), LevelJob::on(of, [=](Level& l, const Context&) -> Status {
                               layOnCourse(l, id, track, verge);
                               return {};
                           }));
}

void CoursePanel::refresh() {
    if (!isVisible()) return;  // figures cost a look at all that the course owns; showEvent() asks again
    const Level& level = place_.document.level();
    const Course* c = courses_.chosen();
    which_->clear();
    which_->addItem(tr("A new course"), 0u);
    for (const Stratum& s : level.strata)
        if (s.leads()) which_->addItem(QString::fromStdString(s.name), s.id);
    which_->setCurrentIndex(std::max(which_->findData(c ? place_.standpoint.course() : 0u), 0));
    says_->setText(
        c ? tr("Drag its posts, and the knobs beside one for width and shoulders. Clicks lengthen it, Ctrl puts a post "
               "into the line, Alt raises and lowers one.")
          : tr("Press at the foot of a ramp or road and pull to its head, or click a course to choose it."));
    details_->setVisible(c != nullptr);
    for (const char* id : {"insertPost", "removePost", "removeCourse"})
        findChild<QToolButton*>(id)->setEnabled(c != nullptr);
    if (!c) return;
    const auto at = static_cast<size_t>(courses_.place());
    use_->setCurrentIndex(static_cast<int>(c->use));
    smooth_->setChecked(c->smooth);
    closed_->setChecked(c->closed);
    meets_->setChecked(c->meets);
    const auto post =
        static_cast<size_t>(std::clamp(place_.standpoint.post(), 0, static_cast<int>(c->posts.size()) - 1));
    const Post& p = c->posts[post];
    const bool bank = c->use == CourseUse::bank;
    free_->setVisible(!bank);
    free_->setChecked(!p.height);
    double height = p.height.value_or(0);
    if (!p.height && !bank)
        for (const LinePoint& l : lineOf(level, at))
            if (l.post == static_cast<int>(post)) {
                height = l.height;
                break;
            }
    height_->setValue(height);
    width_->setValue(p.width);
    shoulder_->setValue(p.shoulder);
    banking_->setVisible(!bank);
    banking_->setValue(p.banking);
    for (QComboBox* box : {track_, verge_}) {
        const uint32_t now = box == track_ ? c->track : c->verge;
        box->clear();
        box->addItem(tr("nothing of its own"), 0u);
        for (size_t i = 1; i < level.layers.size(); ++i)
            if (!level.layers[i].locked) box->addItem(QString::fromStdString(level.layers[i].name), level.layers[i].id);
        box->setCurrentIndex(std::max(box->findData(now), 0));
    }
    showFigures(at);
}

void CoursePanel::showFigures(size_t at) {
    const CourseFigures f = courseFigures(place_.document.level(), at);
    const double limit = house_.view.sight().walkable;
    QString text = tr("%1 m long, up to %2° (%3 %). %4 m³ cut, %5 m³ filled.")
                       .arg(f.length, 0, 'f', 1)
                       .arg(f.steepest, 0, 'f', 1)
                       .arg(100 * std::tan(f.steepest * kRadians), 0, 'f', 0)
                       .arg(f.cut, 0, 'f', 0)
                       .arg(f.fill, 0, 'f', 0);
    if (f.steepest > limit) text += tr(" Steeper than the %1° that can be walked.").arg(limit, 0, 'f', 0);
    figures_->setText(text);
}

}  // namespace jam
