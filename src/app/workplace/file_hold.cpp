#include "workplace/file_hold.h"

#include <QCryptographicHash>
#include <QDir>
#include <QFileInfo>

#include "files/archive.h"
#include "journal/journal.h"

namespace jam {

namespace {

// Known by where it really lies.
QString placeOf(const QString& path) {
    const QString real = QFileInfo(path).canonicalFilePath();
    return real.isEmpty() ? QFileInfo(path).absoluteFilePath() : real;
}

std::string identityOf(const QString& path) {
    const auto identity = fileIdentity(path.toStdString());
    return identity ? identity.value() : std::string();
}

}  // namespace

bool FileHold::take(const QString& path) {
    const QString place = path.isEmpty() ? QString() : placeOf(path);
    if (!place.isEmpty()) identity_ = identityOf(place);
    if (place == path_) return true;
    path_ = place;
    lock_.reset();
    if (place.isEmpty()) return true;
    const QString folder = QString::fromStdString(journalFolder().string()) + "/open";
    if (!QDir().mkpath(folder)) return true;
    const QByteArray name = QCryptographicHash::hash(place.toUtf8(), QCryptographicHash::Sha1).toHex().left(20);
    lock_ = std::make_unique<QLockFile>(folder + "/" + name + ".lock");
    lock_->setStaleLockTime(0);  // for as long as the one that has it lives
    return lock_->tryLock(0) || lock_->error() != QLockFile::LockFailedError;
}

bool FileHold::changedSince(const QString& path) const {
    if (!QFileInfo::exists(path) || placeOf(path) != path_ || identity_.empty()) return false;
    const std::string now = identityOf(path);
    return now != identity_;
}

}  // namespace jam
