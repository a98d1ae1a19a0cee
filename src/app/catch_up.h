// Lets what follows the ground catch up beside the window, where that takes longer than a hand may wait.
#pragma once

#include <atomic>
#include <memory>
#include <QObject>

#include "commit/commit.h"

namespace jam {

class CatchUp : public QObject {
    Q_OBJECT
public:
    // Followers look at no more samples than this while the hand waits: some ten milliseconds.
    static constexpr long long kAtOnce = 60'000;

    explicit CatchUp(QObject* parent) : QObject(parent) {}
    ~CatchUp() override { stop(); }

    // Lets everything follow `touched`, in place of what ran before.
    void start(const Level& level, const Change& touched, uint64_t serial);
    // What runs is never told.
    void stop();
    bool running() const { return cancel_ != nullptr; }

signals:
    void caughtUp(uint64_t serial, const Level& level);
    void failed(const Error& error);

private:
    std::shared_ptr<std::atomic<bool>> cancel_;  // of what runs; null when nothing does
};

}  // namespace jam
