// What a designer keeps for every level: brush tips, named brushes, clips of ground. Shipped ones come from the share
// folder, own ones from the folder of the user's data, where they are ordinary PNG and JSON files that can be shared.
#pragma once

#include <QIcon>
#include <QObject>

#include "files/settings_json.h"

namespace jam {

class Workplace;

class Shelf : public QObject {
    Q_OBJECT
public:
    // Reads both folders. Files that cannot be read are told with trouble() when asked for by refresh().
    explicit Shelf(QObject* parent = nullptr);

    const std::vector<TipPtr>& tips() const { return tips_; }
    struct Brush {
        Preset preset;
        QString file;  // where it is kept
        bool own;      // in the user's folder, so it can be removed
    };
    const std::vector<Brush>& brushes() const { return brushes_; }

    // Copies a PNG to the user's tips; what is there stays, so that one of the same name gets a number.
    Status addTip(const QString& path);
    // Whether an own brush or clip has this very name, and so would be replaced.
    bool hasBrush(const QString& name) const;
    bool hasClip(const QString& name) const;
    // Keeps a brush under a name; an own brush of that name is replaced.
    Status keep(const QString& name, const StrokeSettings& settings);
    Status removeBrush(size_t index);
    // The brush in a file that somebody shared, for keep().
    Result<Preset> brushFrom(const QString& path) const;
    // Clips: pieces of ground, each a level file with a picture beside it.
    struct KeptClip {
        QString name, file, picture;
        bool own;
    };
    const std::vector<KeptClip>& clips() const { return clips_; }
    // Where a clip of this name is to be kept: the file of the one that has it, or one that is free. Its picture goes
    // beside it, ending in .png.
    QString clipFile(const QString& name) const;
    // Looks for clips again: they are written on a worker.
    void clipsChanged();
    Status removeClip(size_t index);
    static QString ownFolder();

signals:
    void changed();

private:
    void refresh();
    Status removeFile(const QString& file, bool own);

    std::vector<TipPtr> tips_;
    std::vector<Brush> brushes_;
    std::vector<KeptClip> clips_;
};

// A brush as it works, in small: one touch of it on a piece of ground, shaded.
QIcon brushIcon(const StrokeSettings& settings, int pixels);
// A tip as a picture in the theme's ink.
QIcon tipIcon(const Tip& tip, int pixels);

}  // namespace jam
