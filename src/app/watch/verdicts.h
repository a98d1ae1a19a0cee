// What the checks find in the level as it is (core, checks/), kept fresh by what surveys find beside the window.
#pragma once

#include <glm/vec3.hpp>
#include <QObject>

#include "checks/check.h"
#include "level/level.h"

namespace jam {

class Document;
class ReachWatch;
class Surveyor;

class Verdicts : public QObject {
    Q_OBJECT
public:
    Verdicts(Document& document, Surveyor& surveyor, ReachWatch& reach, QObject* parent = nullptr);

    // One check with what it found, at least something; what tells of things that are gone by now is left out.
    struct Verdict {
        const Check* check;
        std::vector<Finding> found;
        QString brief;  // for the trail
    };
    // In the order of the list; of one station, or of all.
    std::vector<Verdict> all(const QByteArray& station = {}) const;
    // The first of a station that warns, or that notes something.
    std::optional<Verdict> first(const QByteArray& station, Check::Weight weight) const;
    // Where what the first one that warns tells of lies, on the ground.
    std::optional<glm::dvec3> place(const QByteArray& station) const;

signals:
    void changed();

private:
    void follow(Check::Looks looks);

    Document& document_;
    Surveyor& surveyor_;
    ReachWatch& reach_;
    std::vector<Verdict> verdicts_;  // one for each check, found or not
    // The level that the checks of either kind looked at last.
    std::array<std::optional<Level>, 2> looked_;
};

}  // namespace jam
