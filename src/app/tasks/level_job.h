// Changes of the level that are made beside the window. The level may go on meanwhile, and then the same is done on
// what is there by then; so a job names the things that it works on, and is refused in words where one of them is gone.
#pragma once

#include <functional>
#include <QString>
#include <type_traits>
#include <vector>

#include "base/context.h"
#include "level/level.h"
#include "level/things.h"

namespace jam {

class LevelJob {
public:
    // On these things, which `work` finds by their ids and may rely on. It either changes a copy of the level in place,
    // Status(Level&, const Context&), or makes another, Result<Level>(const Level&, const Context&); cancelledError()
    // when it was stopped.
    template <class F>
    static LevelJob on(std::vector<Thing> things, F work) {
        if constexpr (std::is_invocable_r_v<Result<Level>, F, const Level&, const Context&>)
            return LevelJob(std::move(things), std::move(work));
        else
            return LevelJob(std::move(things),
                            [work = std::move(work)](const Level& before, const Context& context) -> Result<Level> {
                                Level after = before;
                                if (const Status s = work(after, context); !s) return s.error();
                                return after;
                            });
    }
    // On the level as a whole: on nothing in it that may go.
    template <class F>
    static LevelJob onAll(F work) {
        return on({}, std::move(work));
    }

    const std::vector<Thing>& things() const { return things_; }
    // What it makes of a level. Errors: goneError() of one of its things; those of the work.
    Result<Level> operator()(const Level& before, const Context& context) const {
        for (const Thing& thing : things_)
            if (!has(before, thing)) return goneError(thing.kind);
        return make_(before, context);
    }

private:
    using Make = std::function<Result<Level>(const Level&, const Context&)>;
    LevelJob(std::vector<Thing> things, Make make) : things_(std::move(things)), make_(std::move(make)) {}

    std::vector<Thing> things_;
    Make make_;
};

// Runs a job beside the window and takes over what it gives as one step (Services::workOn).
using WorkOn = std::function<void(const QString& what, LevelJob job)>;

}  // namespace jam
