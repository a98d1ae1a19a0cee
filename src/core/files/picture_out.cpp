#include "files/picture_out.h"

namespace jam {

struct PictureOut::State {
    AtomicFile* file;
    Bytes pending;
    Status trouble;

    void take(const uint8_t* from, size_t n) {
        constexpr size_t kFlush = 1u << 18;
        pending.insert(pending.end(), from, from + n);
        if (pending.size() >= kFlush) flush();
    }
    void flush() {
        if (trouble) trouble = file->append(pending.data(), pending.size());
        pending.clear();
    }
};

PictureOut::PictureOut(AtomicFile& file, const PngShape& shape)
    : state_(std::make_shared<State>(State{&file, {}, {}})),
      writer_(shape, [state = state_](const uint8_t* from, size_t n) { state->take(from, n); }) {}

void PictureOut::row(const uint16_t* samples) { writer_.row(samples); }

const Status& PictureOut::trouble() const { return state_->trouble; }

Status PictureOut::finish() {
    const Status whole = writer_.finish();
    state_->flush();
    return whole ? state_->trouble : whole;
}

}  // namespace jam
