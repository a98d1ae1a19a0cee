// Pictures that go out row by row: whole, those of a large level would take more memory than the level.
#pragma once

#include "files/picture_out.h"
#include "handover/writer.h"

namespace jam {

// Begins a picture among the files of a hand over.
inline Result<PictureOut> beginPicture(HandoverFiles& files, const std::string& name, const PngShape& shape) {
    Result<AtomicFile*> file = files.begin(name);
    if (!file) return file.error();
    return PictureOut(*file.value(), shape);
}

// row(z, samples) for every row of all pictures at once, each with samples of its own.
template <class F>
Status writeRows(const std::vector<PictureOut*>& pictures, int columns, int rows, const Context& context, F row) {
    std::vector<std::vector<uint16_t>> samples(pictures.size(), std::vector<uint16_t>(static_cast<size_t>(columns)));
    for (int z = 0; z < rows; ++z) {
        row(z, samples);
        for (size_t i = 0; i < pictures.size(); ++i) pictures[i]->row(samples[i].data());
        if (z % 64 != 0) continue;
        for (const PictureOut* p : pictures)
            if (!p->trouble()) return p->trouble();
        context.report(static_cast<double>(z) / rows);
        if (context.cancelled()) return cancelledError();
    }
    for (PictureOut* p : pictures)
        if (Status s = p->finish(); !s) return s;
    return {};
}

inline std::string sized(int columns, int rows) { return std::to_string(columns) + " × " + std::to_string(rows); }

}  // namespace jam
