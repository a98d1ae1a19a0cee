#include "files/exr.h"

#include <Iex.h>
#include <ImfChannelList.h>
#include <ImfFrameBuffer.h>
#include <ImfHeader.h>
#include <ImfInputFile.h>
#include <ImfIO.h>
#include <algorithm>
#include <cmath>
#include <cstring>

#include "base/srgb.h"

namespace jam {

namespace {

class MemoryStream : public Imf::IStream {
public:
    MemoryStream(const Bytes& bytes, const std::string& name) : Imf::IStream(name.c_str()), bytes_(bytes) {}

    bool read(char to[], int n) override {
        if (n < 0 || at_ > bytes_.size() || static_cast<uint64_t>(n) > bytes_.size() - at_)
            throw Iex::InputExc("the file is cut off");
        std::memcpy(to, bytes_.data() + at_, static_cast<size_t>(n));
        at_ += static_cast<uint64_t>(n);
        return at_ < bytes_.size();
    }
    uint64_t tellg() override { return at_; }
    void seekg(uint64_t to) override { at_ = to; }

private:
    const Bytes& bytes_;
    uint64_t at_ = 0;
};

std::string channelOf(const Imf::ChannelList& channels) {
    for (const char* wanted : {"Y", "Z", "height", "R"})
        if (channels.findChannel(wanted)) return wanted;
    for (auto c = channels.begin(); c != channels.end(); ++c)
        if (std::string(c.name()) != "A") return c.name();
    return {};
}

// One channel of an open file as floats.
Result<Raster<float>> readChannel(Imf::InputFile& file, const std::string& channel, const Bytes& bytes,
                                  const std::string& name, int maxSide) {
    const Imath::Box2i window = file.header().dataWindow();
    const long long width = static_cast<long long>(window.max.x) - window.min.x + 1,
                    depth = static_cast<long long>(window.max.y) - window.min.y + 1;
    if (width < 1 || depth < 1 || width > maxSide || depth > maxSide)
        return Error{name, "size", "it is " + std::to_string(width) + " x " + std::to_string(depth),
                     "use at most " + std::to_string(maxSide) + " samples a side"};
    // Even the best packing keeps a byte of some hundreds; a header that promises more is damaged.
    if (static_cast<double>(width) * static_cast<double>(depth) > 4096.0 * static_cast<double>(bytes.size()))
        return Error{name, "size", "its header promises more than the file can hold",
                     "the file is damaged; copy it again"};
    const Imf::Channel* c = file.header().channels().findChannel(channel.c_str());
    if (c->xSampling != 1 || c->ySampling != 1)
        return Error{name, "channels", "its samples are thinned out", "export every sample"};
    Raster<float> out(static_cast<int>(width), static_cast<int>(depth), 0.f);
    Imf::FrameBuffer frame;
    char* base =
        reinterpret_cast<char*>(out.view().data) -
        (static_cast<ptrdiff_t>(window.min.x) + static_cast<ptrdiff_t>(window.min.y) * static_cast<ptrdiff_t>(width)) *
            static_cast<ptrdiff_t>(sizeof(float));
    frame.insert(channel, Imf::Slice(Imf::FLOAT, base, sizeof(float), sizeof(float) * static_cast<size_t>(width)));
    file.setFrameBuffer(frame);
    file.readPixels(window.min.y, window.max.y);
    return out;
}

// f(open file); what the library throws comes back as an error.
template <class T, class F>
Result<T> withFile(const Bytes& bytes, const std::string& name, F f) {
    try {
        MemoryStream stream(bytes, name);
        Imf::InputFile file(stream, 1);
        return f(file);
    } catch (const std::exception& e) {
        return Error{name, "", std::string("it cannot be read as OpenEXR: ") + e.what(), "export it again"};
    }
}

uint16_t srgbByte(float linear) {
    return static_cast<uint16_t>(std::lround(255 * srgbOf(std::clamp(linear, 0.f, 1.f))));
}

}  // namespace

Result<Raster<float>> decodeExr(const Bytes& bytes, const std::string& name, int maxSide) {
    return withFile<Raster<float>>(bytes, name, [&](Imf::InputFile& file) -> Result<Raster<float>> {
        const std::string channel = channelOf(file.header().channels());
        if (channel.empty()) return Error{name, "channels", "there is none with heights", "export a channel named Y"};
        return readChannel(file, channel, bytes, name, maxSide);
    });
}

Result<Pixels> decodeExrPicture(const Bytes& bytes, const std::string& name, int maxSide, bool light) {
    return withFile<Pixels>(bytes, name, [&](Imf::InputFile& file) -> Result<Pixels> {
        const Imf::ChannelList& channels = file.header().channels();
        const bool rgb = channels.findChannel("R") && channels.findChannel("G") && channels.findChannel("B");
        const std::string one = channelOf(channels);
        if (one.empty())
            return Error{name, "channels", "there is none with colour", "export channels named R, G and B"};
        Pixels p{0, 0, 3, 8, {}};
        for (int c = 0; c < 3; ++c) {
            Result<Raster<float>> plane = readChannel(file, rgb ? std::string(1, "RGB"[c]) : one, bytes, name, maxSide);
            if (!plane) return plane.error();
            const Raster<float>& v = plane.value();
            p.width = v.width();
            p.height = v.depth();
            p.samples.resize(static_cast<size_t>(p.width) * static_cast<size_t>(p.height) * 3);
            for (int y = 0; y < p.height; ++y)
                for (int x = 0; x < p.width; ++x)
                    p.samples[(static_cast<size_t>(y) * static_cast<size_t>(p.width) + static_cast<size_t>(x)) * 3 +
                              static_cast<size_t>(c)] =
                        light ? srgbByte(v.at(x, y))
                              : static_cast<uint16_t>(std::lround(255 * std::clamp(v.at(x, y), 0.f, 1.f)));
        }
        return p;
    });
}

}  // namespace jam
