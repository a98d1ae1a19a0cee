// Sequences of all that hands, panels and verbs can do, made from a seed, played on lopsided levels, and cut down to
// the shortest that still fails. A step is a verb and a few numbers in [0, 1] that say what of the level as it then is,
// and how much: so that a sequence goes on meaning something when steps are taken out of it.
#pragma once

#include <array>
#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "level/history.h"
#include "levels.h"

namespace jam::test {

constexpr size_t kStepNumbers = 6;

struct Step {
    std::string verb;
    std::array<double, kStepNumbers> numbers{};

    bool operator==(const Step&) const = default;
};
using Sequence = std::vector<Step>;

// One line a step: "raise 0.25 0 1 0.5 0.5 0.125". What is no step is left out.
std::string toText(const Sequence& steps);
Sequence sequenceFrom(const std::string& text);

// A verb changes a copy of the level, or leaves it as it was when there is nothing to do.
struct Verb {
    const char* name;
    void (*act)(Level& level, const std::array<double, kStepNumbers>& numbers);
};
const std::vector<Verb>& verbs();

// Numbers lie at the ends of their ranges and in the middle as often as anywhere else.
Sequence randomSequence(uint32_t seed, int length);
// The level that a sequence begins on: oblong by a factor of nearly two, away from the origin, cover twice as fine, two
// or three of everything, some of it across the borders of tiles.
Level sequenceStart(uint32_t seed);

// Plays steps, one after the other: each is committed as a command commits it and becomes a step of a history. "undo",
// "redo", "stepTo" and "reopen" (saved and opened) are verbs too.
class Player {
public:
    explicit Player(Level start) : history_(std::move(start), "start", size_t{1} << 33) {}

    const Level& level() const { return history_.now(); }
    // The level before the last step, and whether the raster stayed the same.
    const Level& before() const { return before_; }
    // Plays one; what is wrong with what it gave, in words, or nothing.
    std::optional<std::string> play(const Step& step);
    int steps() const { return count_; }
    const History& history() const { return history_; }

private:
    History history_;
    Level before_;
    int count_ = 0;
};

// What follows in the level is what is made of the rest from the start: baked courses, water and streams, what rules
// give. What differs, or nothing.
std::optional<std::string> notAsMadeAnew(const Level& level);

// What a listener finds wrong after a step, or nothing. It is made anew for each sequence; a thorough one does at every
// step what others do now and then, so that the place of a step in its sequence means nothing while that is cut down.
using Look = std::function<std::optional<std::string>(const Player&)>;
using MakeLook = std::function<Look(const Level& start, bool thorough)>;

struct Failure {
    Sequence shortest;
    std::string what;  // the sentence, and the steps as text
};
// Plays a sequence; what fails is cut down until no step can be left out and no number be made simpler.
std::optional<Failure> failing(uint32_t levelSeed, const Sequence& steps, const MakeLook& look);

}  // namespace jam::test
