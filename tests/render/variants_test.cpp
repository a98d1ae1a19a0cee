// What was compiled beside the window is found by it: a driver compiles for more than a shader's text.
#include <chrono>
#include <cstdlib>
#include <filesystem>
#include <thread>

#include "folder.h"
#include "level/ground.h"
#include "levels.h"
#include "picture.h"
#include "render/software/variant_queue.h"

using namespace jam;
using namespace jam::test;
namespace fs = std::filesystem;

namespace {

// What lies in the driver's cache, in bytes, once no more is written to it.
uintmax_t cached() {
    const auto bytes = [] {
        uintmax_t sum = 0;
        std::error_code gone;
        for (const auto& file : fs::recursive_directory_iterator(std::getenv("XDG_CACHE_HOME"), gone))
            if (file.is_regular_file(gone)) sum += file.file_size(gone);
        return sum;
    };
    uintmax_t now = bytes(), before;
    do {
        before = now;
        std::this_thread::sleep_for(std::chrono::milliseconds(400));
        now = bytes();
    } while (now != before);
    return now;
}

}  // namespace

TEST_CASE("with a cache of its own: a maker compiles all that the window needs", "[.]") {
    REQUIRE(std::getenv("XDG_CACHE_HOME"));
    renderer();  // opens the context
    const std::unique_ptr<PixelRenderer> window = PixelRenderer::create().take(),
                                         maker = PixelRenderer::create().take();
    Target target;
    const auto variants = std::make_shared<VariantQueue>();
    window->setQueues(variants, nullptr);
    const Level level = lopsidedLevel(), small = flatLevel(9, 9);
    const HeightPyramid pyramid(level), smallPyramid(small);
    window->scene().sync(level, pyramid);
    maker->scene().sync(small, smallPyramid);
    Camera camera;
    camera.width = kWidth, camera.height = kHeight, camera.pitch = -30;
    const double x = level.originX + level.width() * 0.4, z = level.originZ + level.depth() * 0.8;
    camera.at = {x, altitudeAt(level, x, z) + 12, z};
    window->scene().bring(camera, {});
    // Long enough for the driver to have settled how it draws.
    for (int i = 0; i < 300; ++i) window->draw(camera, {}, i % 2 ? Finish::quick : Finish::coarse);
    CHECK_FALSE(window->draw(camera, {}, Finish::full));
    const Variant last{1u << 30, {}};
    variants->wantLater(last);
    const uintmax_t before = cached();
    std::vector<Variant> made;
    for (auto wanted = variants->next(); *wanted != last; wanted = variants->next()) {
        maker->scene().makeVariant(target, *wanted);
        made.push_back(*wanted);
    }
    const uintmax_t then = cached();
    if (then == before) {
        WARN("this driver keeps no shaders");
        return;
    }
    for (const Variant& v : made) variants->done(v);
    for (const Finish f : {Finish::full, Finish::quick}) {
        int pictures = 0;  // each meets one of them
        while (!window->draw(camera, {}, f) && pictures < 10) ++pictures;
        CHECK(pictures < 10);
    }
    CHECK(cached() == then);
}

TEST_CASE("the window compiles nothing that was compiled beside it") {
    const Folder folder;
    const std::string command = "XDG_CACHE_HOME='" + folder.path.string() + "' '" +
                                fs::read_symlink("/proc/self/exe").string() + "' 'with a cache of its own*'";
    CHECK(std::system(command.c_str()) == 0);
}
