// What stands on the level as it is seen, for whoever points at it: tiles are worked out when they are asked for.
#pragma once

#include "dress/plantings.h"
#include "workplace/document.h"

namespace jam {

class Pointed : public QObject {
public:
    explicit Pointed(Document& document) : document_(document) {
        connect(&document, &Document::changed, this, [this](const News& news) {
            if (plantings_) plantings_->follow(document_.level(), news.change);
        });
    }
    Plantings& plantings() {
        if (!plantings_) plantings_.emplace(document_.level());
        return *plantings_;
    }

private:
    Document& document_;
    std::optional<Plantings> plantings_;
};

}  // namespace jam
