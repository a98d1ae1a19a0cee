#include "files/exr.h"

#include <ImfChannelList.h>
#include <ImfFrameBuffer.h>
#include <ImfHeader.h>
#include <ImfIO.h>
#include <ImfInputFile.h>
#include <Iex.h>
#include <cstring>

namespace jam {

namespace {

class MemoryStream : public Imf::IStream {
public:
    MemoryStream(const Bytes& bytes, const std::string& name) : Imf::IStream(name.c_str()), bytes_(bytes) {}

    bool read(char to[], int n) override {
        if (n < 0 || at_ + static_cast<uint64_t>(n) > bytes_.size()) throw Iex::InputExc("the file is cut off");
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

}  // namespace

Result<Raster<float>> decodeExr(const Bytes& bytes, const std::string& name, int maxSide) {
    try {
        MemoryStream stream(bytes, name);
        Imf::InputFile file(stream, 1);
        const Imath::Box2i window = file.header().dataWindow();
        const long long width = static_cast<long long>(window.max.x) - window.min.x + 1, depth = static_cast<long long>(window.max.y) - window.min.y + 1;
        if (width < 1 || depth < 1 || width > maxSide || depth > maxSide)
            return Error{name, "size", "it is " + std::to_string(width) + " x " + std::to_string(depth), "use at most " + std::to_string(maxSide) + " samples a side"};
        // Even the best packing keeps a byte of some hundreds; a header that promises more is damaged.
        if (static_cast<double>(width) * static_cast<double>(depth) > 4096.0 * static_cast<double>(bytes.size()))
            return Error{name, "size", "its header promises more than the file can hold", "the file is damaged; copy it again"};
        const std::string channel = channelOf(file.header().channels());
        if (channel.empty()) return Error{name, "channels", "there is none with heights", "export a channel named Y"};
        const Imf::Channel* c = file.header().channels().findChannel(channel.c_str());
        if (c->xSampling != 1 || c->ySampling != 1) return Error{name, "channels", "its samples are thinned out", "export every sample"};
        Raster<float> out(static_cast<int>(width), static_cast<int>(depth), 0.f);
        Imf::FrameBuffer frame;
        char* base = reinterpret_cast<char*>(out.view().data) - (static_cast<ptrdiff_t>(window.min.x) + static_cast<ptrdiff_t>(window.min.y) * static_cast<ptrdiff_t>(width)) * static_cast<ptrdiff_t>(sizeof(float));
        frame.insert(channel, Imf::Slice(Imf::FLOAT, base, sizeof(float), sizeof(float) * static_cast<size_t>(width)));
        file.setFrameBuffer(frame);
        file.readPixels(window.min.y, window.max.y);
        return out;
    } catch (const std::exception& e) {
        return Error{name, "", std::string("it cannot be read as OpenEXR: ") + e.what(), "export it again"};
    }
}

}  // namespace jam
