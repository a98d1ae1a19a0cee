#include "bake_row.h"

#include <algorithm>
#include <cmath>

#include "row_loops.h"

namespace jam {

namespace {

uint32_t packed(uint32_t r, uint32_t g, uint32_t b, uint32_t a) { return r | g << 8 | b << 16 | a << 24; }

}  // namespace

BakeRow::BakeRow(int samples) {
    const auto n = static_cast<size_t>(samples);
    for (std::vector<float>* v : {&east, &up, &south, &even}) v->resize(n);
    for (std::vector<uint32_t>* v : {&sun, &open}) v->resize(n);
}

void BakeRow::slopes(const float* above, const float* middle, const float* below, int every, float per) {
    float *e = east.data(), *u = up.data(), *s = south.data();
    withStep(every, [&](auto step) {
        for (size_t i = 0; i < up.size(); ++i) {
            const size_t x = i * step;
            const float toEast = (middle[x + 2] - middle[x]) * per, toSouth = (below[x + 1] - above[x + 1]) * per;
            const float upwards = 1 / std::sqrt(1 + toEast * toEast + toSouth * toSouth);
            e[i] = -toEast * upwards;
            u[i] = upwards;
            s[i] = -toSouth * upwards;
        }
    });
}

void BakeRow::shadeInto(std::vector<uint32_t>& out, const uint8_t* shade, int every) const {
    const float* share = even.data();
    uint32_t* to = out.data();
    const auto whole = [](float full) {
        return static_cast<uint32_t>(static_cast<int32_t>(std::min(full + 0.5f, 255.f)));
    };
    if (!shade) {
        for (size_t i = 0; i < out.size(); ++i) to[i] = whole(share[i] * 255);
        return;
    }
    withStep(every, [&](auto step) {
        for (size_t i = 0; i < out.size(); ++i) to[i] = whole(share[i] * static_cast<float>(shade[i * step]));
    });
}

void BakeRow::surface(uint32_t* out) const {
    const float *e = east.data(), *s = south.data();
    const auto side = [](float part) { return static_cast<uint32_t>(static_cast<int32_t>(part * 127.5f + 128.f)); };
    for (size_t i = 0; i < up.size(); ++i) out[i] = packed(side(e[i]), side(s[i]), sun[i], open[i]);
}

void BakeRow::lit(const LightLook& l, const Ground& ground, int every, uint32_t* out) const {
    constexpr size_t kAtOnce = 64;
    int32_t places[3][kAtOnce];  // in the table of what is shown
    const ShownTable& shown = shownTable();
    withStep(every, [&](auto step) {
        const size_t n = (up.size() + step - 1) / step;
        for (size_t first = 0; first < n; first += kAtOnce) {
            const size_t count = std::min(kAtOnce, n - first);
            const float *e = &east[first * step], *u = &up[first * step], *s = &south[first * step];
            const uint32_t *sunHere = &sun[first * step], *openHere = &open[first * step];
            const float* albedo[3] = {ground.red + first, ground.green + first, ground.blue + first};
            for (int c = 0; c < 3; ++c) {
                const float sunColour = l.sun[c], skyColour = l.sky[c];
                for (size_t i = 0; i < count; ++i) {
                    // litColour(), light.h
                    const size_t x = i * step;
                    const float towards = e[x] * l.towards.x + u[x] * l.towards.y + s[x] * l.towards.z;
                    const float direct = std::max(towards, 0.f) *
                                         (static_cast<float>(static_cast<int32_t>(sunHere[x])) / 255.f);
                    const float ambient = (skyColour * (0.62f + 0.38f * u[x]) + sunColour * (0.045f * (1 - u[x]))) *
                                          (static_cast<float>(static_cast<int32_t>(openHere[x])) / 255.f);
                    places[c][i] = shownPlace(albedo[c][i] * (sunColour * direct + ambient));
                }
            }
            for (size_t i = 0; i < count; ++i)
                out[first + i] = packed(shown[static_cast<size_t>(places[0][i])],
                                        shown[static_cast<size_t>(places[1][i])],
                                        shown[static_cast<size_t>(places[2][i])], ground.grain[first + i]);
        }
    });
}

}  // namespace jam
