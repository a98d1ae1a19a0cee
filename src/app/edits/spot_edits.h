// What a designer does with spots and bodies, on the document: each is one step, refused in words when it cannot be.
#pragma once

#include <functional>

#include "walk/spots.h"
#include "workplace/workplace.h"

namespace jam {

class SpotEdits {
public:
    explicit SpotEdits(Workplace& place) : place_(place) {}

    // The one that is chosen, or null.
    const Spot* chosen() const { return place_.document.level().spot(place_.standpoint.spot()); }
    // Puts one down and chooses it. Its kind follows from those that are there: a start first, then a goal, then
    // others.
    // On a pad, when one is given, all in one step.
    bool add(double x, double z, double facing, const std::optional<Pad>& pad = {});
    // Change the chosen one; say why not, and return false, when that cannot be. `gesture` as Document::edit.
    bool edit(const QString& what, const std::function<void(Spot&)>& change, const QString& gesture = {});
    bool rename(const QString& name);
    bool move(uint32_t id, double x, double z);
    bool setPad(const std::optional<Pad>& pad, const QString& gesture = {});
    void remove();
    // The level with a spot elsewhere, and how that is to be shown before it is a step.
    Result<Commit> tried(uint32_t id, double x, double z) const;

    // Whether a body is one of the level's own.
    static bool isOwn(const Level& level, const std::string& body);
    // Chooses who goes; changes the one that goes, which becomes one of the level's own when it was none.
    void chooseBody(const QString& name);
    bool editBody(const std::function<void(Body&)>& change, const QString& gesture = {});
    bool renameBody(const QString& name);
    void removeBody();

private:
    Workplace& place_;
};

}  // namespace jam
