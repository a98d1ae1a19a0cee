#include "surveyor.h"

#include <cmath>
#include <glm/common.hpp>
#include <QPainter>

#include "cover/lay.h"
#include "cover/wash.h"
#include "cover/weights.h"
#include "document.h"
#include "level/ground.h"
#include "pictures/material.h"
#include "render/light.h"
#include "survey/contours.h"
#include "survey/stretch.h"
#include "survey/sunlight.h"

namespace jam {

namespace {

constexpr int kRestMs = 250;
constexpr int kPlanSize = 420;

// Mean colours of pictures, kept because decoding is slow; used by the survey thread only.
glm::vec3 meanColour(const Layer& layer) {
    static std::map<Picture, glm::vec3> known;
    const auto at = known.find(layer.colour);
    if (at != known.end()) return at->second;
    if (known.size() > 64) known.clear();
    Layer colourOnly;
    colourOnly.colour = layer.colour;
    const Result<Material> m = makeMaterial(colourOnly, 32);
    const glm::vec3 mean = m ? glm::vec3(m.value().meanColour[0], m.value().meanColour[1], m.value().meanColour[2])
                             : glm::vec3(0.5f);
    return known[layer.colour] = mean;
}

}  // namespace

QImage drawPlan(const Level& level, const Raster<uint8_t>& sun, float interval, int most, const Context& context) {
    const int step = std::max(1, (std::max(level.columns, level.rows) + most - 1) / most);
    const int w = (level.columns - 1) / step + 1, d = (level.rows - 1) / step + 1;
    QImage image(w, d, QImage::Format_RGB32);
    std::vector<glm::vec3> means;
    for (const Layer& l : level.layers) {
        const std::array<float, 3> tint = tintOf(l.look);
        means.push_back(meanColour(l) * glm::vec3(tint[0], tint[1], tint[2]));
    }
    const LightLook light = lightLook(level.sun, false);
    Raster<float> rows(level.columns, 2);
    for (int z = 0; z < d && !context.cancelled(); ++z) {
        auto* out = reinterpret_cast<QRgb*>(image.scanLine(z));
        const int r = z * step, below = std::min(r + step, level.rows - 1);
        readGround(level, {0, r, level.columns, r + 1}, rows.view());
        readGround(level, {0, below, level.columns, below + 1}, rows.view().part(0, 1, level.columns, 1));
        for (int x = 0; x < w; ++x) {
            const int c = x * step, beside = std::min(c + step, level.columns - 1);
            const auto weights = weightsAt(level, c * level.coverFactor, r * level.coverFactor);
            glm::vec3 albedo(0);
            const Wash wash = level.wash.at(c, r);
            const std::array<float, 3> painted = washLight(wash);
            for (size_t i = 0; i < means.size(); ++i)
                albedo += glm::mix(means[i], glm::vec3(painted[0], painted[1], painted[2]),
                                   level.layers[i].look.wash * static_cast<float>(wash.strength) / 65535) *
                          (static_cast<float>(weights[i]) / 255.f);
            const float run = static_cast<float>(step * level.spacing);
            const float east = (rows.at(beside, 0) - rows.at(c, 0)) / run,
                        south = (rows.at(c, 1) - rows.at(c, 0)) / run;
            const float up = 1 / std::sqrt(1 + east * east + south * south);
            const glm::vec3 lit = litColour(light, albedo, {-east * up, up, -south * up},
                                            static_cast<float>(sun.at(c, r)) / 255.f, 1);
            out[x] = qRgb(finished(lit.x), finished(lit.y), finished(lit.z));
        }
    }
    if (context.cancelled()) return {};
    QPainter p(&image);
    p.setRenderHint(QPainter::Antialiasing);
    QVector<QLineF> fine, strong;
    for (const ContourPiece& c : contours(level, interval, step, context)) {
        const double per = 1 / (level.spacing * step);
        const QLineF line((c.x0 - level.originX) * per, (c.z0 - level.originZ) * per, (c.x1 - level.originX) * per,
                          (c.z1 - level.originZ) * per);
        (std::lround(c.altitude / interval) % 5 == 0 ? strong : fine).append(line);
    }
    p.setPen(QPen(QColor(30, 20, 26, 80), 0.7));
    p.drawLines(fine);
    p.setPen(QPen(QColor(30, 20, 26, 150), 1.0));
    p.drawLines(strong);
    return image;
}

Surveyor::Surveyor(Document& document, QObject* parent) : QObject(parent), document_(document) {
    rest_.setSingleShot(true);
    rest_.setInterval(kRestMs);
    connect(&rest_, &QTimer::timeout, this, &Surveyor::start);
    connect(&document, &Document::replaced, this, &Surveyor::later);
    connect(&document, &Document::seen, this, &Surveyor::later);
    connect(&document, &Document::layersChanged, this, &Surveyor::later);
    connect(&document, &Document::sunTurned, this, &Surveyor::later);
    start();
}

Surveyor::~Surveyor() {
    cancel_ = true;
    if (thread_.joinable()) thread_.join();
}

void Surveyor::later() {
    cancel_ = true;
    rest_.start();
}

void Surveyor::start() {
    if (running_) {
        again_ = true;
        return;
    }
    if (document_.stroking()) return later();
    running_ = true;
    cancel_ = false;
    thread_ = std::thread([this, level = document_.level()] {
        Context context;
        context.cancel = &cancel_;
        auto f = std::make_shared<Findings>();
        f->ground = surveyGround(level, context);
        if (!cancel_) f->shares = layerShares(level);
        if (!cancel_) f->stretched = stretchedShare(level, 0.5, context);
        auto sun = std::make_shared<Raster<uint8_t>>(level.columns, level.rows),
             open = std::make_shared<Raster<uint8_t>>(level.columns, level.rows);
        if (!cancel_) readSunlight(level, sun->view());
        if (!cancel_) readOpenness(level, open->view());
        f->planInterval = contourInterval(f->ground.highest - f->ground.lowest, 14);
        if (!cancel_) f->plan = drawPlan(level, *sun, f->planInterval, kPlanSize, context);
        f->sun = sun;
        f->open = open;
        QMetaObject::invokeMethod(
            this,
            [this, f] {
                thread_.join();
                running_ = false;
                const bool whole = !cancel_;
                if (whole) {
                    findings_ = f;
                    emit found();
                }
                if (std::exchange(again_, false) || !whole) rest_.start();
            },
            Qt::QueuedConnection);
    });
}

}  // namespace jam
