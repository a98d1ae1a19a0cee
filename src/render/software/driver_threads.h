// The threads on which a software driver draws, spread over the processors.
#pragma once

#include <span>
#include <vector>

namespace jam {

// What thread i of n runs on: its share of the processors that may be used, one at least. 0 <= i < n; `allowed` is not
// empty.
std::vector<int> processorsFor(int i, int n, std::span<const int> allowed);

// Gives each of the driver's threads processors of its own. They are woken all at once, and schedulers often put two
// of them on one processor and leave another idle until half the frame is over. Says how many it found: none where the
// system does not tell, or where a card draws. May be called again.
int spreadDriverThreads();

}  // namespace jam
