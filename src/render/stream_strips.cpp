#include "stream_strips.h"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <glm/common.hpp>

#include "base/parallel.h"
#include "level/ground.h"
#include "water/water.h"

namespace jam {

namespace {

constexpr size_t kAcross = StreamStrips::kAcross;
constexpr double kNearest = 0.5;  // metres

// How far to a side of a point of a stream its surface reaches: until the ground rises above it.
double reachAside(const Level& level, const LinePoint& p, double nx, double nz) {
    const double step = 0.5 * level.spacing, most = 0.5 * p.width + p.shoulder;
    for (double out = 0.5 * p.width; out < most; out += step)
        if (altitudeAt(level, p.x + out * nx, p.z + out * nz) > p.height) return out + step;
    return most;
}

// Adds the vertices of a line.
void put(const Level& level, const std::vector<LinePoint>& line, float number, std::vector<float>& all) {
    constexpr size_t kEach = kAcross * StreamStrips::kFloats;
    const size_t first = all.size();
    all.resize(first + line.size() * kEach);
    parallelFor(static_cast<int>(line.size()), 16, [&](int from, int to) {
        for (auto i = static_cast<size_t>(from); i < static_cast<size_t>(to); ++i) {
            const LinePoint &p = line[i], &a = line[i > 0 ? i - 1 : 0], &b = line[std::min(i + 1, line.size() - 1)];
            const double dx = b.x - a.x, dz = b.z - a.z, length = std::max(std::hypot(dx, dz), 1e-9);
            const double nx = -dz / length, nz = dx / length, falls = (a.height - b.height) / length;
            auto to3 = all.begin() + static_cast<ptrdiff_t>(first + i * kEach);
            for (const int side : {-1, 0, 1}) {
                const double out = side == 0 ? 0 : side * reachAside(level, p, side * nx, side * nz);
                for (const double v : {p.x + out * nx, static_cast<double>(p.height), p.z + out * nz,
                                       static_cast<double>(p.along), out, falls})
                    *to3++ = static_cast<float>(v);
                *to3++ = number;
            }
        }
    });
}

}  // namespace

std::vector<uint32_t> StreamStrips::cornersBetween(size_t begin, size_t end, size_t stride) {
    std::vector<uint32_t> corners;
    for (size_t i = begin; i < end; i += stride) {
        const auto a = static_cast<uint32_t>(kAcross * i),
                   b = static_cast<uint32_t>(kAcross * std::min(i + stride, end));
        for (const uint32_t k : {0u, 1u})
            corners.insert(corners.end(), {a + k, a + k + 1, b + k, a + k + 1, b + k + 1, b + k});
    }
    return corners;
}

void StreamStrips::build() {
    vertices_ = makeBuffer();
    corners_ = makeBuffer();
    array_ = makeArray();
    glBindVertexArray(array_);
    glBindBuffer(GL_ARRAY_BUFFER, vertices_);
    constexpr GLsizei kSize = kFloats * sizeof(float);
    for (const GLuint i : {0u, 1u}) glEnableVertexAttribArray(i);
    glVertexAttribPointer(0, 3, GL_FLOAT, GL_FALSE, kSize, nullptr);
    glVertexAttribPointer(1, 4, GL_FLOAT, GL_FALSE, kSize, reinterpret_cast<void*>(3 * sizeof(float)));
    glBindBuffer(GL_ELEMENT_ARRAY_BUFFER, corners_);
    glBindVertexArray(0);
}

void StreamStrips::follow(const Level& level, int firstNumber) {
    std::vector<float> all;
    std::vector<uint32_t> byDensity[kDensities];
    reaches_.clear();
    constexpr size_t kLongest = kStrides[kDensities - 1];
    for (size_t n = 0; n < level.streams.size(); ++n) {
        const std::vector<LinePoint> line = streamLine(level, level.streams[n]);
        if (line.size() < 2) continue;
        const auto first = static_cast<uint32_t>(all.size() / kFloats);
        put(level, line, static_cast<float>(firstNumber + static_cast<int>(n)), all);
        for (size_t begin = 0; begin + 1 < line.size(); begin += kLongest) {
            const size_t end = std::min(begin + kLongest, line.size() - 1);
            Reach reach;
            for (size_t i = begin; i <= end; ++i) {
                for (size_t k = 0; k < kAcross; ++k) {
                    const float* v = all.data() + (first + kAcross * i + k) * kFloats;
                    const glm::dvec3 at(v[0], v[1], v[2]);
                    reach.box = i == begin && k == 0 ? Box{at, at}
                                                     : Box{glm::min(reach.box.low, at), glm::max(reach.box.high, at)};
                }
                if (i > begin) reach.step = std::max(reach.step, line[i].along - line[i - 1].along);
            }
            for (int d = 0; d < kDensities; ++d) {
                std::vector<uint32_t>& corners = byDensity[d];
                reach.corners[d].first = static_cast<int>(corners.size());
                for (const uint32_t corner : cornersBetween(begin, end, kStrides[d])) corners.push_back(first + corner);
                reach.corners[d].count = static_cast<int>(corners.size()) - reach.corners[d].first;
            }
            reaches_.push_back(reach);
        }
    }
    std::vector<uint32_t> corners;
    for (int d = 0; d < kDensities; ++d) {
        for (Reach& r : reaches_) r.corners[d].first += static_cast<int>(corners.size());
        corners.insert(corners.end(), byDensity[d].begin(), byDensity[d].end());
    }
    glBindVertexArray(0);
    glBindBuffer(GL_ARRAY_BUFFER, vertices_);
    glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(all.size() * sizeof(float)), all.data(), GL_DYNAMIC_DRAW);
    glBindVertexArray(array_);
    glBindBuffer(GL_ELEMENT_ARRAY_BUFFER, corners_);
    glBufferData(GL_ELEMENT_ARRAY_BUFFER, static_cast<GLsizeiptr>(corners.size() * sizeof(uint32_t)), corners.data(),
                 GL_DYNAMIC_DRAW);
    glBindVertexArray(0);
}

void StreamStrips::draw(const Camera& camera, double apart) const {
    const Frustum picture(camera);
    const double metres = apart * camera.metresPerPixel(1);
    glBindVertexArray(array_);
    drawn_ = 0;
    Reach::Corners run;
    const auto finish = [&] {
        if (run.count > 0)
            glDrawElements(GL_TRIANGLES, run.count, GL_UNSIGNED_INT,
                           reinterpret_cast<void*>(static_cast<size_t>(run.first) * sizeof(uint32_t)));
        drawn_ += run.count;
    };
    for (const Reach& r : reaches_) {
        if (!picture.meets(r.box)) continue;
        const double most = metres * std::max(distanceTo(r.box, camera.at), kNearest);
        int density = kDensities - 1;
        while (density > 0 && kStrides[density] * r.step > most) --density;
        // Those that lie behind one another in the buffer are drawn at once.
        const Reach::Corners& c = r.corners[density];
        if (c.first == run.first + run.count) {
            run.count += c.count;
            continue;
        }
        finish();
        run = c;
    }
    finish();
    glBindVertexArray(0);
}

}  // namespace jam
