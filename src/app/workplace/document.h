// The document: the level that is worked on, its history, and what is seen in its place for a moment (a preview, or the
// level as it was). It knows neither tools nor where one looks. Whatever happens to it is told once, with what may be
// other than before, and whoever shows it says what concerns them.
#pragma once

#include <functional>
#include <glm/vec3.hpp>
#include <memory>
#include <optional>
#include <QElapsedTimer>
#include <QObject>
#include <QString>
#include <QTimer>
#include <vector>

#include "commit/commit.h"
#include "dress/kinds.h"
#include "level/history.h"
#include "stroke/stroker.h"
#include "survey/changed_patch.h"
#include "tasks/task.h"

namespace jam {

// What of a document may be other than before, for those who show it.
enum class About : uint32_t {
    level = 1 << 0,     // another level altogether; all the others come with it
    raster = 1 << 1,    // other samples in other places
    samples = 1 << 2,   // of the level as it is seen
    looks = 1 << 3,     // how layers or water are drawn, whatever their samples
    layers = 1 << 4,    // the list of layers, or anything about one but its samples
    strata = 1 << 5,    // the same of strata, or which of them is chosen
    sun = 1 << 6,       //
    fence = 1 << 7,     // the fence, whether it is in force, or those that are kept
    waters = 1 << 8,    // the pools and streams, or where they stand
    spots = 1 << 9,     // the spots, the bodies, or which of them goes
    name = 1 << 10,     // name, file, or whether it is saved
    history = 1 << 11,  // its entries, or the place in it
    preview = 1 << 12,  // something else is seen now than the standing level, or no longer
    stroke = 1 << 13,   // a stroke of the hand became a step
    dress = 1 << 14,    // the kinds, or where they stand
};
Q_DECLARE_FLAGS(Abouts, About)
Q_DECLARE_OPERATORS_FOR_FLAGS(Abouts)

// One change of a document, as it is told.
struct News {
    Abouts about;
    Change change;  // of the level as it is seen
    std::vector<ChangedPatch> patches;
};

// A level with what seeing it needs, which takes a while for a large one: made beside the window where it can be.
struct ReadyLevel {
    Level level;
    HeightPyramid pyramid;
    ReadyLevel(Level l) : level(std::move(l)), pyramid(level) {}
};

class Document : public QObject {
    Q_OBJECT
public:
    // `what` names the first entry of the history.
    explicit Document(Level level, const QString& what = tr("Start"), QObject* parent = nullptr);

    // The level as it is seen: history's present level, that with the stroke in hand, a preview, or an earlier one.
    const Level& level() const { return level_; }
    // Always of level().
    const HeightPyramid& pyramid() const { return pyramid_; }
    const History& history() const { return history_; }
    // The level as it stands: what is saved, handed over and worked on. Never a preview.
    const Level& standing() const { return history_.now(); }
    // The same with all that follows the hand, worked out where it is called, which may be another thread. Where much
    // follows, the window shows it only when it is there.
    using Settle = std::function<Result<Level>(const Context&)>;
    Settle settled() const;
    // True while parts of the level still follow what the hand did last.
    bool catchingUp() const { return catchUp_.running(); }
    const QString& path() const { return path_; }
    bool dirty() const { return history_.serial() != savedSerial_; }
    // The level of an entry of the history that is still kept, or null.
    const Level* stepLevel(uint64_t serial) const;
    const std::shared_ptr<const Level>& savedLevel() const { return saved_; }

    // Starts over with another level; an empty path means that it was never saved.
    void open(ReadyLevel ready, const QString& path, const QString& what);
    // The same with a whole history; `saved` is the serial of the entry that lies at `path`, or 0.
    void openHistory(History history, const QString& path, uint64_t saved);
    // Notes that this level, which the history had under this serial, is now safe at `path`.
    void markSaved(const QString& path, uint64_t serial, const Level& level);

    // Makes one undo step of what `change` does to a copy of the level; false when nothing may be changed now. Edits
    // with the same `gesture` that follow each other closely (turning a knob) become one step. Names that no file could
    // keep are refused with said().
    bool edit(const QString& what, const std::function<void(Level&)>& change, const QString& gesture = {});
    // The same with a change that may find that it cannot be made, such as on what is gone: that is said then.
    bool tryEdit(const QString& what, const std::function<Status(Level&)>& change, const QString& gesture = {});
    // Makes one undo step of work that was done on standing(); a preview makes room for it. Precondition: not stroking.
    void commit(const QString& what, Commit work);
    // Chooses the stratum that brushes go to; no step of the history. Nothing happens for a course.
    void chooseStratum(uint32_t id);
    void undo();
    void redo();
    void stepTo(size_t place);

    // --- seeing another level in place of the present one ---
    // Shows a level without making it part of the history, such as what work on the whole ground would do.
    void showPreview(Commit work);
    bool previewing() const { return preview_ != nullptr; }
    // Makes the preview an undo step, or lets it go.
    void applyPreview(const QString& what);
    void dropPreview();
    // While it is on, the ground is shown as it was: without the preview, at the last save, or one step before.
    // Says what is shown, or why nothing is.
    QString lookBack(bool on);
    bool lookingBack() const { return lookingBack_; }
    // Whether looking back shows the last save; otherwise the step before.
    bool looksAtSave() const { return looksAtSave_; }
    void setLooksAtSave(bool save) { looksAtSave_ = save; }

    // --- strokes ---
    // Why no stroke may begin now; empty when one may.
    QString whyNoStroke() const;
    // Precondition: whyNoStroke() is empty, checkNeeds() passes. `pictureHeights` as in Stroker.
    void beginStroke(const StrokeSettings& settings, std::shared_ptr<const Level> reference,
                     std::shared_ptr<const Raster<float>> pictureHeights);
    void continueStroke(const StrokePoint& point);
    // Makes the stroke an undo step of this name; nothing happens when it changed nothing.
    void endStroke(const QString& what);
    // Takes the stroke back.
    void cancelStroke();
    bool stroking() const { return stroker_.has_value(); }
    // The ground as it was when the stroke began: picking on it keeps the brush from running after itself.
    const Level& strokeGround() const { return stroking() ? history_.now() : level_; }
    const HeightPyramid& strokePyramid() const { return stroking() ? strokePyramid_ : pyramid_; }

    // Calls `slot`, of `receiver` when it is a member, whenever something of what it is about changes.
    template <class R, class F>
    QMetaObject::Connection on(Abouts what, R* receiver, F slot, Qt::ConnectionType type = Qt::AutoConnection) {
        return connect(
            this, &Document::changed, receiver,
            [what, receiver, slot = std::move(slot)](const News& news) mutable {
                if (!(news.about & what)) return;
                if constexpr (std::is_member_function_pointer_v<F>) (receiver->*slot)();
                else slot();
            },
            type);
    }

signals:
    void changed(const News& news);
    void said(const QString& sentence);  // something to tell in passing

private:
    // Makes `level` the one that is seen, and tells what differs, and what else happened at the same time.
    void show(const Level& level, Abouts also = {});
    void tell(const Change& change, Abouts also = {});
    void push(const Level& level, const QString& what);
    // All that does not go on when the history is another; `saved` as openHistory().
    void startOver(const QString& path, uint64_t saved);
    // Makes `level` the next step, or the present one, and lets what follows it do so at once or beside the window.
    void take(Level level, Change touched, const QString& what, bool inPlace);
    const Change* owed() const;
    void followOn();
    void complete(uint64_t serial, const Level& level);

    History history_;
    Level level_;
    HeightPyramid pyramid_, strokePyramid_;
    TiledGrid<Wet> shownWater_;  // as it was last told of
    Standing stood_;             // how far what stands there reached then
    QString path_;
    uint64_t savedSerial_ = 0;
    std::shared_ptr<const Level> saved_, preview_;
    bool lookingBack_ = false, looksAtSave_ = false;
    QString gesture_;
    qint64 gestureTime_ = 0;
    std::optional<Stroker> stroker_;
    Task catchUp_{Task::Priority::aside};  // of what takes longer than a hand may wait
    void followWater();
    Change waterOwed_;                 // ground of the stroke in hand that water has not followed yet
    QTimer waterSoon_;                 // until it does
    QElapsedTimer waterClock_;         // since it did
    qint64 waterCost_ = 0;             // nanoseconds that that took
    std::map<uint64_t, Change> owed_;  // what followers have not seen yet, by the serial of the step
};

}  // namespace jam
