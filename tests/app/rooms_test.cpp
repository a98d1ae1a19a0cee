// Every registered station and setting has its place in the window, and the trail has room for eight.
#include <catch2/catch.hpp>

#include <QAction>
#include <QMenu>
#include <QPainter>
#include <set>

#include "levels.h"
#include "looks/theme.h"
#include "looks/tool_looks.h"
#include "panels/bench.h"
#include "panels/brush_fields.h"
#include "panels/number_field.h"
#include "panels/sheet.h"
#include "panels/tool_shelf.h"
#include "panels/trail.h"
#include "stage.h"

using namespace jam;
using namespace jam::test;

namespace {

class PlainStation : public Station {
public:
    PlainStation(const char* id, const QString& title, const QString& state, Mood mood)
        : Station(id, title, "shape", ""), state_{state, mood} {}
    State state() const override { return state_; }
    QWidget* benchPage(QWidget* parent) override { return new QWidget(parent); }
    QWidget* sheetPage(QWidget* parent) override { return new QWidget(parent); }
    void set(const State& state) { state_ = state, emit stateChanged(); }

private:
    State state_;
};

// The eight of the design, with long states.
std::vector<std::unique_ptr<Station>> eight() {
    using Mood = Station::Mood;
    std::vector<std::unique_ptr<Station>> all;
    const struct {
        const char *id, *title, *state;
        Mood mood;
    } rows[] = {{"layOut", "Lay out", "4096 × 4096 m, every 0.5 m", Mood::plain},
                {"shape", "Shape", "-112 to 1240 m, up to 88°", Mood::plain},
                {"cover", "Cover", "2 of 13 layers unused", Mood::plain},
                {"water", "Water", "mill pond leaks east, 0.4 m short", Mood::warns},
                {"dress", "Dress", "12,400 trees, 310 float", Mood::warns},
                {"light", "Light", "sun 24° high, from 248°", Mood::plain},
                {"walk", "Walk", "3 of 4 spots reached", Mood::warns},
                {"handOver", "Hand over", "as handed over", Mood::passes}};
    for (const auto& r : rows)
        all.push_back(std::make_unique<PlainStation>(r.id, r.title, QString::fromUtf8(r.state), r.mood));
    return all;
}

}  // namespace

TEST_CASE("every station has a title, an icon, a key of its own, pages and a state, and can be gone to") {
    Stage stage(lopsidedLevel());
    std::set<QByteArray> ids;
    for (const auto& s : stage.window.stations()) {
        INFO(s->id().toStdString());
        CHECK(ids.insert(s->id()).second);
        CHECK_FALSE(s->title().isEmpty());
        CHECK_FALSE(iconPixmap(s->iconName(), 20, Qt::red).isNull());
        QAction* go = stage.window.actions()[s->id().constData()];
        REQUIRE(go);
        CHECK(go->shortcut().toString() == s->key());
        go->trigger();
        CHECK(stage.place.standpoint.station() == s->id());
        CHECK(stage.window.trail()->station(s->id())->active());
        CHECK_FALSE(s->state().text.isEmpty());
        CHECK(stage.window.trail()->station(s->id())->state() == s->state().text);
    }
    CHECK(ids.size() == stage.window.trail()->buttons().size());
    for (int t = 0; t < kTools; ++t) CHECK(ids.contains(stationOf(static_cast<Tool>(t))));
}

TEST_CASE("every tool has a command with an icon and a key, and taking it up goes to its station") {
    Stage stage(lopsidedLevel());
    std::set<QString> keys;
    for (int t = 0; t < kTools; ++t) {
        const auto tool = static_cast<Tool>(t);
        QAction* a = stage.window.actions()[toolName(tool).data()];
        REQUIRE(a);
        INFO(toolName(tool));
        CHECK_FALSE(a->icon().isNull());
        CHECK(keys.insert(a->shortcut().toString()).second);
        a->trigger();
        CHECK(stage.place.toolbox.tool() == tool);
        CHECK(stage.place.standpoint.station() == stationOf(tool));
        CHECK(a->isChecked());
    }
}

TEST_CASE("every setting of every tool has a field in the sheet, and only those of the tool are shown") {
    Workplace place(lopsidedLevel());
    BrushFields fields(place);
    static_cast<QWidget&>(fields).show();
    const auto named = [&](const Setting& s) {
        return fields.findChild<QWidget*>(QString::fromUtf8(s.name.data(), static_cast<qsizetype>(s.name.size())));
    };
    for (int t = 0; t < kTools; ++t) {
        place.toolbox.setTool(static_cast<Tool>(t));
        for (const Setting* own : ownSettings()) {
            INFO(toolName(static_cast<Tool>(t)) << ": " << own->name);
            QWidget* field = named(*own);
            REQUIRE(field);
            const bool applies = uses(static_cast<Tool>(t), *own) &&
                                 (!own->applies || own->applies(place.toolbox.settings()));
            CHECK(field->isVisibleTo(&fields) == applies);
        }
    }
    for (const Setting* c : commonSettings())
        if (std::string_view(c->group) != "pressure" && c->name != "radius" && c->name != "softness") {
            INFO(c->name);
            CHECK(named(*c));
        }
}

TEST_CASE("every number in the sheet stands in the units that are shown, and is kept in its own", "[property]") {
    Workplace place(lopsidedLevel());
    BrushFields fields(place);
    static_cast<QWidget&>(fields).show();
    int looked = 0;
    for (int t = 0; t < kTools; ++t) {
        place.toolbox.setTool(static_cast<Tool>(t));
        std::vector<const Setting*> all(ownSettings().begin(), ownSettings().end());
        all.insert(all.end(), commonSettings().begin(), commonSettings().end());
        for (const Setting* s : all) {
            auto* field = fields.findChild<NumberField*>(
                QString::fromUtf8(s->name.data(), static_cast<qsizetype>(s->name.size())));
            if (!field || s->kind != Setting::Kind::number || !field->isVisibleTo(field->parentWidget())) continue;
            INFO(toolName(static_cast<Tool>(t)) << ": " << s->name);
            ++looked;
            const double low = s->reach && s->low < 0 ? -s->reach : s->low, high = s->reach ? s->reach : s->high,
                         step = std::pow(10.0, -s->decimals);
            const auto between = [&](double share) {
                const double v = low + share * (high - low);
                return s->whole ? std::round(v) : v;
            };
            place.toolbox.changeSettings([&](StrokeSettings& settings) { s->set(settings, between(0.3)); });
            CHECK(field->value() == Approx(between(0.3) * s->shown).margin(step));
            field->spin()->setValue(between(0.6) * s->shown);
            CHECK(s->get(place.toolbox.settings()) == Approx(between(0.6)).margin(step / s->shown));
        }
    }
    CHECK(looked > 40);
}

TEST_CASE("the trail has room for eight stations with long states, at 1280 and at 1024") {
    const auto stations = eight();
    Standpoint standpoint;
    QList<QAction*> atHand;
    for (int i = 0; i < 9; ++i) atHand << new QAction(icon("undo"), "x", &standpoint);
    QMenu menu;
    Trail trail(stations, standpoint, atHand, &menu);
    for (const int width : {1280, 1024}) {
        trail.resize(width, 44);
        trail.QWidget::show();
        QApplication::processEvents();
        INFO(width);
        int end = 0, states = 0;
        for (const StationButton* b : trail.buttons()) {
            CHECK(b->x() >= end);
            end = b->x() + b->width();
            // The name has all the room that it takes.
            CHECK(b->width() >= b->widthFor(StationButton::Shows::name));
            CHECK(b->width() >= b->widthFor(b->shows()));
            states += b->shows() == StationButton::Shows::state;
            CHECK(b->toolTip().contains(b->state()));
        }
        const auto* first = trail.findChild<QToolButton*>();
        CHECK(end <= first->mapTo(&trail, QPoint(0, 0)).x());
        if (width == 1280) {
            CHECK(states >= 1);
            CHECK(trail.station("water")->shows() == StationButton::Shows::state);  // what warns comes first
        }
    }
    // A state that changes is laid out anew.
    trail.resize(1280, 44);
    static_cast<PlainStation*>(stations[3].get())->set({"2 pools, both closed", Station::Mood::passes});
    CHECK(trail.station("water")->state() == "2 pools, both closed");
    CHECK(trail.station("walk")->shows() == StationButton::Shows::state);
}
