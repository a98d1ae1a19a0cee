// Watches the level and keeps what is known of reach fresh, on another thread, giving way to the hand; and looks for
// the way between two spots when one is asked for.
#pragma once

#include <memory>
#include <optional>
#include <QObject>

#include "level/level.h"
#include "tasks/when_rested.h"
#include "walk/reach.h"
#include "walk/ways.h"

namespace jam {

class Document;

class ReachWatch : public QObject {
    Q_OBJECT
public:
    explicit ReachWatch(Document& document, QObject* parent = nullptr);

    // Null while the level has no spots, and until it was looked at.
    const std::shared_ptr<const Reach>& reach() const { return reach_; }
    // Whether reach() tells of the level as it is.
    bool fresh() const { return !rested_.busy(); }
    // The way that is shown, between two spots by their ids; with 0 none. It follows the level.
    void askWay(uint32_t from, uint32_t to);
    uint32_t from() const { return from_; }
    uint32_t to() const { return to_; }
    // Null while it is looked for, and when there is none.
    const std::shared_ptr<const Way>& way() const { return way_; }

signals:
    void found();
    void failed(const Error& error);
    void wayFound();

private:
    WhenRested::Job begin();
    void forget();

    Document& document_;
    std::shared_ptr<const Reach> reach_;
    std::shared_ptr<const Level> level_;  // that reach_ tells of
    uint32_t from_ = 0, to_ = 0;
    std::shared_ptr<const Way> way_;
    WhenRested rested_;  // the last, because what runs tells the others
};

}  // namespace jam
