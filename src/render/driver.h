// Who draws for the context that is current.
#pragma once

#include <string>

namespace jam {

std::string driverName();
// True when it draws on the processor.
bool driverIsSoftware();

}  // namespace jam
