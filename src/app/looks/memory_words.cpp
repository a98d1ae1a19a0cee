#include "looks/memory_words.h"

#include "render/memory.h"

namespace jam {

int megabytesFor(const NewLevel& wish, int painted, int layers) {
    constexpr size_t kProgram = 240u << 20;  // the program with its windows, fonts and shaders, without a level
    return static_cast<int>((kProgram + memoryEstimate(wish, painted) + drawingMemory(wish, layers)) >> 20);
}

}  // namespace jam
