// The levels that lie beside this one: which file on which side, and a strip of each, for its ghost and for fitting
// the border to it. Those that borders name are read again when a level is opened.
#pragma once

#include <array>
#include <memory>
#include <QObject>

#include "level/level.h"
#include "tasks/task.h"

namespace jam {

class Document;

class Neighbours : public QObject {
    Q_OBJECT
public:
    explicit Neighbours(Document& document, QObject* parent = nullptr);

    struct Neighbour {
        QString file;                        // empty: none
        std::shared_ptr<const Level> strip;  // what of it lies near the border; null until it is read
        QString trouble;                     // why it cannot be read, or does not fit
    };
    const Neighbour& on(Side side) const { return at_[static_cast<size_t>(side)]; }
    // Reads a level file on a thread of its own; told with changed().
    void choose(Side side, const QString& file);
    void forget(Side side);

    bool ghosts() const { return ghosts_; }
    void setGhosts(bool on);

signals:
    void changed();

private:
    void follow();

    Document& document_;
    std::array<Neighbour, kLevelSides> at_;
    bool ghosts_ = true;
    std::array<Task, kLevelSides> reading_;
};

}  // namespace jam
