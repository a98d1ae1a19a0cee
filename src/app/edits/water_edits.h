// What a designer does with pools and streams, on the document: each is one step, refused in words when it cannot be.
#pragma once

#include <functional>

#include "water/water.h"
#include "workplace/workplace.h"

namespace jam {

class WaterEdits {
public:
    explicit WaterEdits(Workplace& place) : place_(place) {}

    // The one that is chosen, or null.
    const Pool* pool() const { return place_.document.level().pool(place_.standpoint.water()); }
    const Stream* stream() const { return place_.document.level().stream(place_.standpoint.water()); }

    // Change the chosen one; say why not, and return false, when that cannot be. `gesture` as Document::edit.
    bool editPool(const QString& what, const std::function<void(Pool&)>& change, const QString& gesture = {});
    bool editStream(const QString& what, const std::function<void(Stream&)>& change, const QString& gesture = {});
    bool rename(const QString& name);
    bool editLook(const std::function<void(WaterLook&)>& change, const QString& gesture = {});
    // The level with a pool at another height, and how that is to be shown before it is a step.
    Commit tried(uint32_t pool, float height) const;
    // Lets the sea in, a metre above the lowest ground of the level's edge, and chooses it.
    void addSea();
    // Deletes the chosen one; a stream's bed stays.
    void remove();

private:
    Workplace& place_;
};

}  // namespace jam
