// A station: one stage of the work. Each has a folder of its own with its bench page, its sheet page, what it says on
// the trail, its commands and its hands; trail, bench and sheet walk the list and know no station by name.
#pragma once

#include <QObject>
#include <QString>

#include "base/result.h"
#include "house/actions.h"
#include "tasks/level_job.h"
#include "view/hand.h"

class QWidget;

namespace jam {

class GroundView;
class Shelf;
class ReachWatch;
class Surveyor;
class Verdicts;
class Work;
class Workplace;
struct ReadyLevel;
struct Commit;
struct Context;
struct Layer;
struct Level;

// What stations ask of the window.
class Services {
public:
    virtual ~Services() = default;
    virtual QWidget* window() = 0;
    // Tells something in passing, or refuses it: a refusal has to be read.
    virtual void say(const QString& sentence) = 0;
    virtual void refuse(const Error& error) = 0;
    // Asks before something is done that cannot be taken back; `yes` and `no` are what the buttons say. True for yes.
    virtual bool ask(const QString& question, const QString& yes, const QString& no) = 0;
    // Where something is to be saved; empty when the person thinks better of it. A name that is typed without an ending
    // gets `suffix`, and a file of the name that comes of it is asked about.
    virtual QString askSaveFile(const QString& title, const QString& start, const QString& filter,
                                const QString& suffix) = 0;
    // Changes the level off the interface thread, as one undo step. When the level has moved on meanwhile, the work is
    // done again on what is there then, so that neither is lost.
    virtual void workOn(const QString& what, LevelJob job) = 0;
    // False when the person wants to stay with unsaved work.
    virtual bool mayLeave() = 0;
    // Puts another level in place of the present one. What was done since the asking (a serial of the history) and is
    // not saved is asked about first; false when the present level stays.
    virtual bool replaceLevel(ReadyLevel level, const QString& path, const QString& what, uint64_t asked) = 0;
};

// What stations work with.
struct House {
    Workplace& place;
    GroundView& view;
    Surveyor& surveyor;
    ReachWatch& reach;
    Verdicts& verdicts;
    Work& work;
    Shelf& shelf;
    Services& services;
    const std::vector<Layer>& shippedLayers;
    Actions* actions = nullptr;  // there before any page is made

    WorkOn worker() const {
        return [s = &services](const QString& what, LevelJob job) { s->workOn(what, std::move(job)); };
    }
};

class Station : public QObject {
    Q_OBJECT
public:
    enum class Mood { plain, passes, warns };
    struct State {
        QString text;
        Mood mood = Mood::plain;
    };

    Station(const char* id, const QString& title, const char* icon, const char* key)
        : id_(id), title_(title), icon_(icon), key_(key) {}

    const QByteArray& id() const { return id_; }
    const QString& title() const { return title_; }
    const char* iconName() const { return icon_; }
    const char* key() const { return key_; }  // usual key that goes here

    virtual State state() const = 0;  // for the trail
    virtual QWidget* benchPage(QWidget* parent) = 0;
    virtual QWidget* sheetPage(QWidget* parent) = 0;
    virtual QList<ActionRow> commands() { return {}; }
    // What a press on the ground takes into the hand; null for nothing.
    virtual std::unique_ptr<Hand> takeHand(const HandEvent&) { return nullptr; }
    // Esc: what the next press would have done, it does no more; false when it would have done nothing special.
    virtual bool putAway() { return false; }
    // Files dropped on the window: true when they were for this station. The present one is asked first.
    virtual bool takeFiles(const QStringList&, bool /*present*/) { return false; }

signals:
    void stateChanged();

protected:
    // What the checks of this station warn of; none when they do not, which is when its own state counts.
    std::optional<State> warned(const House& house) const;

private:
    QByteArray id_;
    QString title_;
    const char *icon_, *key_;
};

// All stations in working order (stations/list.cpp).
std::vector<std::unique_ptr<Station>> makeStations(House& house);

}  // namespace jam
