// Keeps the document's work safe while it is not saved: its journal (core: journal/), from one save to the next.
#pragma once

#include <QObject>

#include "journal/recover.h"
#include "workplace/document.h"

namespace jam {

class Safekeeping : public QObject {
    Q_OBJECT
public:
    // Without a folder nothing is kept.
    Safekeeping(Document& document, std::filesystem::path folder, QObject* parent = nullptr);
    ~Safekeeping() override;

    // Opens what was taken up, as the document's history, and goes on with its journal.
    void goOn(TakenUp work);
    // What lasts so long as a save takes: said before it begins, called by it when the file is about to take its place
    // (any thread), and said when it is there.
    std::function<void(const std::string&)> saveBegins(const std::filesystem::path& file);
    void saved();
    // The work ends as the designer chose.
    void end();
    // Waits until all is on the disk; for tests.
    Status settle() { return journal_ ? journal_->settle() : Status(); }

signals:
    void said(const QString& sentence);

private:
    void begin();
    void look(const News& news);
    Journal::Told teller();

    Document& document_;
    const std::filesystem::path folder_;
    std::shared_ptr<Journal> journal_;    // a save that is under way holds it too
    uint64_t revision_ = 0, serial_ = 0;  // what it was told of last
    std::unique_ptr<Database> taken_;     // of what is just being opened
};

}  // namespace jam
