// What a designer does with kinds and singles, on the document: each is one step, refused in words when it cannot be.
#pragma once

#include <functional>

#include "course/footprint.h"
#include "dress/kinds.h"
#include "dress/plantings.h"
#include "workplace/workplace.h"

namespace jam {

struct Recipe;

class KindEdits {
public:
    explicit KindEdits(Workplace& place) : place_(place) {}

    // Adds one, with a name that is free, and chooses it.
    bool add(Kind kind);
    // Changes the chosen one; `gesture` as Document::edit.
    bool edit(const QString& what, const std::function<void(Kind&)>& change, const QString& gesture = {});
    bool setDensity(double onHundred, const QString& gesture = {});
    // What the ground does under those of the chosen kind that were put down; and the layers that lie there, on what is
    // even and round it, by their ids, 0 for none.
    bool setFootprint(const std::optional<Footprint>& footprint, const QString& gesture = {});
    bool layOnFootprint(uint32_t track, uint32_t verge);
    void remove();
    void duplicate();
    void move(int by);

    // Puts one of a kind down.
    bool put(const Single& single);
    // Changes those that are chosen, all in one step; plantings become singles by it. `gesture` as Document::edit.
    bool editChosen(const QString& what, const std::function<void(Single&)>& change, const QString& gesture = {});
    void removeChosen();
    // Takes one of a line out, so that a gate is left.
    bool leaveGate(uint32_t single);
    // A line of one kind along places on the ground.
    bool putLine(uint32_t kind, const std::vector<std::array<double, 2>>& line);
    // What is done with several at once (dress/arrange.h); plantings among them become singles by it.
    bool arrangeChosen(const QString& what, Status (*arrange)(Level&, const std::vector<uint32_t>&));
    // Moves all that are chosen by so many metres; and the level with them there, before it is a step.
    bool moveChosen(double x, double z);
    Result<Commit> tried(double x, double z) const;

private:
    Workplace& place_;
};

}  // namespace jam
