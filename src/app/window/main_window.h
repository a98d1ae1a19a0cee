// The window: trail above, bench below, sheet at the right, the view in between.
#pragma once

#include <QMainWindow>

#include "house/actions.h"
#include "house/shelf.h"
#include "house/station.h"
#include "tasks/work.h"
#include "view/ground_view.h"
#include "watch/reach_watch.h"
#include "watch/surveyor.h"
#include "watch/verdicts.h"
#include "workplace/file_hold.h"
#include "workplace/safekeeping.h"

namespace jam {

class Bench;
class FirstMinute;
class Sheet;
class Trail;

class MainWindow : public QMainWindow, public Services {
    Q_OBJECT
public:
    // The workplace outlives the window. `layers` is the shipped set; work is kept safe in `journals`, or not at all
    // without it.
    MainWindow(Workplace& place, std::vector<Layer> layers, std::unique_ptr<Surface> surface,
               const std::filesystem::path& journals = {});
    ~MainWindow() override;

    GroundView* view() const { return view_; }
    Bench* bench() const { return bench_; }
    Trail* trail() const { return trail_; }
    FirstMinute* firstMinute() const { return firstMinute_; }
    Sheet* sheet() const { return sheet_; }
    Actions& actions() const { return *actions_; }
    Work& work() { return work_; }
    Safekeeping& keeping() { return keeping_; }
    Shelf& shelf() { return shelf_; }
    Surveyor& surveyor() { return *surveyor_; }
    ReachWatch& reach() { return *reach_; }
    const Verdicts& verdicts() { return *verdicts_; }
    // The station of a kind, such as station<CoverStation>().
    template <class S>
    S* station() const {
        for (const auto& s : stations_)
            if (auto* found = dynamic_cast<S*>(s.get())) return found;
        return nullptr;
    }
    const std::vector<std::unique_ptr<Station>>& stations() const { return stations_; }

    // Opens a level file off the interface thread; the present level stays when it fails.
    // `askedAt` is the serial of the history at which the person let the present level go; without it, now.
    void openFile(const QString& path, std::optional<uint64_t> askedAt = {});
    // Saves the level as it stands off the interface thread, after what runs; `then` runs when it is safe on the disk.
    void saveTo(const QString& path, std::function<void()> then = {});
    // The last message that was shown to the person, for tests.
    const QString& lastMessage() const { return lastMessage_; }
    // Refusals go to the bench instead of a dialog; for tests and scripts.
    void setQuiet(bool quiet) { quiet_ = quiet; }

    // --- what stations ask for ---
    QWidget* window() override { return this; }
    void say(const QString& sentence) override;
    void refuse(const Error& error) override;
    bool ask(const QString& question, const QString& yes, const QString& no) override;
    QString askSaveFile(const QString& title, const QString& start, const QString& filter,
                        const QString& suffix) override;
    void workOn(const QString& what, LevelJob job) override;
    bool mayLeave() override;
    bool replaceLevel(ReadyLevel level, const QString& path, const QString& what, uint64_t asked) override;

signals:
    // Work on the level begins, or begins again on a newer one.
    void workBegun(const QString& what, const LevelJob& job);

protected:
    void closeEvent(QCloseEvent*) override;
    bool eventFilter(QObject* watched, QEvent* event) override;
    void dragEnterEvent(QDragEnterEvent*) override;
    void dropEvent(QDropEvent*) override;

private:
    QList<ActionRow> actionTable();
    QList<ActionRow> toolActions();
    QList<ActionRow> viewActions();
    QMenu* makeMenu();
    void tellTitle();
    void tellTools();
    // Whether the action has this key.
    bool isKeyOf(const char* action, int key) const;
    bool mayEndWork();
    void rememberBrushes() const;
    void recallBrushes();
    void saveNow(const QString& path, std::function<void()> then);
    void rememberRecent(const QString& path);
    // Begins with the file that the document lies in now.
    void holdFile();
    // What opening a file that is damaged offers: the save before it.
    void offerBackup(const QString& path, const Error& why, std::optional<uint64_t> askedAt);
    void openWithDialog();
    // False when no path was chosen.
    bool save(std::function<void()> then = {});
    bool saveAs(std::function<void()> then = {});
    void showContours();
    void fullView(bool on);
    void switchTheme();
    void nextPart();

    Workplace& place_;
    Safekeeping keeping_;
    FileHold hold_;
    std::vector<Layer> shippedLayers_;
    Work work_;
    Shelf shelf_;
    Surveyor* surveyor_;
    ReachWatch* reach_;
    Verdicts* verdicts_;
    GroundView* view_;
    House house_;
    std::vector<std::unique_ptr<Station>> stations_;
    Actions* actions_;
    Trail* trail_;
    FirstMinute* firstMinute_;
    Bench* bench_;
    Sheet* sheet_;
    QMenu *menu_, *recent_;
    QString lastMessage_;
    bool quiet_ = false;
};

}  // namespace jam
