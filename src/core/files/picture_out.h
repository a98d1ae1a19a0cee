// A PNG that goes to its file while its rows come in, so that no picture is held whole.
#pragma once

#include "files/disk.h"
#include "files/png.h"

namespace jam {

class PictureOut {
public:
    // `file` outlives this object; its goal is replaced by commit() alone.
    PictureOut(AtomicFile& file, const PngShape& shape);

    // Width x channels samples, top to bottom.
    void row(const uint16_t* samples);
    // What the disk said so far; after the first trouble nothing more is written.
    const Status& trouble() const;
    // After the last row.
    Status finish();

private:
    struct State;  // stays where it is, since the writer keeps hold of it
    std::shared_ptr<State> state_;
    PngWriter writer_;
};

}  // namespace jam
