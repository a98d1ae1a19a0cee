// Every tool, one line each, in the order of the bench. A tool is this line and a file in tools/ that defines
// tools::NAME(); one without the other does not build.
#pragma once

#define JAM_TOOLS(tool)                                                                                                \
    tool(raise) tool(lower) tool(smooth) tool(evenOut) tool(flatten) tool(terrace) tool(slope) tool(noise)             \
        tool(crumble) tool(rainWash) tool(restore) tool(openUp) tool(closeUp) tool(takeLand) tool(addLand) tool(paint) \
            tool(erase) tool(soften) tool(carry) tool(breakUp) tool(replace) tool(byRule) tool(wash) tool(rinse)       \
                tool(plant) tool(thin) tool(clearAway) tool(resize) tool(restyle)
