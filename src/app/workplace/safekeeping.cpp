#include "workplace/safekeeping.h"

#include <QCoreApplication>
#include <QMetaObject>
#include <QPointer>

#include "files/archive.h"

namespace jam {

Safekeeping::Safekeeping(Document& document, std::filesystem::path folder, QObject* parent)
    : QObject(parent), document_(document), folder_(std::move(folder)) {
    connect(&document, &Document::changed, this, &Safekeeping::look);
    begin();
}
Safekeeping::~Safekeeping() = default;

Journal::Told Safekeeping::teller() {
    return [self = QPointer(this)](const Error& e) {
        QMetaObject::invokeMethod(
            qApp,
            [self, sentence = QString::fromStdString(e.sentence())] {
                if (self)
                    emit self->said(
                        tr("What you do is not kept safe from a crash: %1 Save often until then.").arg(sentence));
            },
            Qt::QueuedConnection);
    };
}

void Safekeeping::begin() {
    if (folder_.empty()) return;
    const History& history = document_.history();
    revision_ = history.revision(), serial_ = history.serial();
    if (taken_) {
        journal_ = std::make_shared<Journal>(std::move(taken_), serial_, history.now(), teller());
        return;
    }
    const std::filesystem::path file = document_.path().toStdString();
    // A file that cannot be read any more is none to go on from.
    const Result<std::string> base = file.empty() ? Result<std::string>(Error{}) : fileIdentity(file);
    journal_ = std::make_shared<Journal>(folder_, base ? std::filesystem::absolute(file) : std::filesystem::path(),
                                         base ? base.value() : std::string(), serial_, history.now(), teller());
}

void Safekeeping::look(const News& news) {
    if (!journal_) return;
    if (news.about & About::level) {
        // Another level: what was worked on before was saved or given up.
        journal_->end();
        return begin();
    }
    const History& history = document_.history();
    if (history.revision() == revision_) return;
    revision_ = history.revision();
    const bool inPlace = history.serial() != serial_ && !document_.stepLevel(serial_);
    serial_ = history.serial();
    journal_->record(serial_, history.entries()[history.place()].what, history.now(), inPlace);
}

void Safekeeping::goOn(TakenUp work) {
    taken_ = std::move(work.database);
    document_.openHistory(std::move(work.history), QString::fromStdString(work.file.string()), work.saved);
}

std::function<void(const std::string&)> Safekeeping::saveBegins(const std::filesystem::path& file) {
    if (!journal_) return {};
    journal_->saveBegins();
    return [journal = journal_, file = std::filesystem::absolute(file)](const std::string& identity) {
        journal->aboutToSave(file, identity);
    };
}

void Safekeeping::saved() {
    if (journal_) journal_->saved();
}

void Safekeeping::end() {
    if (journal_) journal_->end();
    journal_.reset();
}

}  // namespace jam
