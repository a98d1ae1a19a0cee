// What is known of the file that the document lies in: as what it was opened or saved, and that nobody else has it
// open.
#pragma once

#include <memory>
#include <QLockFile>
#include <QString>

namespace jam {

class FileHold {
public:
    // Begins with a file, as it lies there; an empty path for none. False when another window has it open: it is known
    // all the same.
    bool take(const QString& path);
    // Whether the file that lies at `path` is another one than this knows: written by somebody else since. What is gone
    // is not.
    bool changedSince(const QString& path) const;

private:
    QString path_;
    std::string identity_;
    std::unique_ptr<QLockFile> lock_;
};

}  // namespace jam
