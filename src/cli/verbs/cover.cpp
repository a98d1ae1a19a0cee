#include "cover/mix.h"
#include "cover/resolution.h"
#include "cover/rules.h"
#include "verb.h"

namespace jam::cli {

namespace {

struct CoverOptions {
    std::string file, out, replaced, by, ruled;
    int factor = 0;
};

// Another resolution, one layer in place of another, and rules worked through.
Result<Level> cover(Level level, const CoverOptions& o) {
    if (o.factor)
        if (const Status s = changeCoverFactor(level, o.factor); !s) return s.error();
    if (!o.replaced.empty() || !o.by.empty()) {
        const Result<uint32_t> from = idIn(level.layers, o.replaced, "--replace", "layer"),
                               to = idIn(level.layers, o.by, "--by", "layer");
        if (!from) return from.error();
        if (!to) return to.error();
        if (const Status s = replaceLayer(level, from.value(), to.value()); !s) return s.error();
    }
    if (!o.ruled.empty()) {
        const Result<uint32_t> id = idIn(level.layers, o.ruled, "--rules-of", "layer");
        if (!id) return id.error();
        if (level.layer(id.value())->rules.empty())
            return Error{o.file, "--rules-of", "\"" + o.ruled + "\" has no rules", "give it some in the program"};
        level.layer(id.value())->alive ? void(refreshLaid(level, id.value())) : void(bakeRules(level, id.value()));
    }
    return level;
}

}  // namespace

Verb addCover(CLI::App& app) {
    auto o = std::make_shared<CoverOptions>();
    CLI::App* v = app.add_subcommand("cover", "Works on the cover");
    v->add_option("LEVEL", o->file, "The level file")->required();
    v->add_option("--factor", o->factor, "Cover samples per ground sample: 1, 2 or 4");
    v->add_option("--replace", o->replaced, "The layer that makes room everywhere");
    v->add_option("--by", o->by, "The layer that takes its place");
    v->add_option("--rules-of", o->ruled, "The layer that is laid by its rules");
    v->add_option("--out", o->out, "Write here instead of over LEVEL");
    return {v, [o] { return workOn(o->file, o->out, [&](const Level& level) { return cover(level, *o); }); }};
}

}  // namespace jam::cli
