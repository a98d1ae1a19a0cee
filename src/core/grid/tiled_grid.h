// A raster in 64 x 64 tiles that are shared between copies until written. Copying one costs a pointer.
#pragma once

#include <algorithm>
#include <array>
#include <cassert>
#include <cstddef>
#include <cstring>
#include <vector>

#include "base/region.h"
#include "grid/cow_ptr.h"
#include "grid/view.h"

namespace jam {

// Invariants:
// 1. An absent tile means that each of its samples has the default value.
// 2. Two grids that share a tile pointer agree on all its samples (the converse does not hold).
// 3. Samples of edge tiles that lie outside the grid hold the default value.
// Threads: after prepare(region) different threads may write() disjoint whole tiles of that region.
template <class T>
class TiledGrid {
public:
    static constexpr int kTile = 64;
    using Tile = std::array<T, kTile * kTile>;

    TiledGrid() = default;
    TiledGrid(int columns, int rows, T defaultValue)
        : columns_(columns), rows_(rows), default_(defaultValue),
          tiles_(std::vector<CowPtr<Tile>>(static_cast<size_t>(tilesAcross()) * tilesDown())) {
        assert(columns > 0 && rows > 0);
    }

    int columns() const { return columns_; }
    int rows() const { return rows_; }
    T defaultValue() const { return default_; }
    int tilesAcross() const { return (columns_ + kTile - 1) / kTile; }
    int tilesDown() const { return (rows_ + kTile - 1) / kTile; }
    Region bounds() const { return {0, 0, columns_, rows_}; }
    Region tileRegion(int tx, int tz) const {
        return Region{tx * kTile, tz * kTile, (tx + 1) * kTile, (tz + 1) * kTile}.clipped(bounds());
    }
    // Tiles that touch `region`, as a region counted in tiles. Precondition: region lies inside the grid.
    static Region tilesOf(const Region& region) {
        return {region.x0 / kTile, region.z0 / kTile, (region.x1 + kTile - 1) / kTile, (region.z1 + kTile - 1) / kTile};
    }

    // The 64 x 64 samples of a tile, row by row, or null when all have the default value.
    const T* tile(int tx, int tz) const {
        const Tile* t = slot(tx, tz).get();
        return t ? t->data() : nullptr;
    }
    T at(int x, int z) const {
        assert(bounds().contains(x, z));
        const T* t = tile(x / kTile, z / kTile);
        return t ? t[(z % kTile) * kTile + x % kTile] : default_;
    }
    void set(int x, int z, T value) { writableTile(x / kTile, z / kTile)[(z % kTile) * kTile + x % kTile] = value; }

    // A tile that only this grid reaches, made when absent, cloned when shared.
    T* writableTile(int tx, int tz) {
        CowPtr<Tile>& s = tiles_.write()[index(tx, tz)];
        if (!s) {
            s = CowPtr<Tile>(Tile{});
            s.write().fill(default_);
        }
        return s.write().data();
    }
    void clearTile(int tx, int tz) { tiles_.write()[index(tx, tz)] = {}; }

    // Lets go of tiles that hold nothing but the default value.
    void dropDefaultTiles() {
        for (int tz = 0; tz < tilesDown(); ++tz)
            for (int tx = 0; tx < tilesAcross(); ++tx)
                if (const T* t = tile(tx, tz);
                    t && std::all_of(t, t + kTile * kTile, [&](T v) { return v == default_; }))
                    clearTile(tx, tz);
    }

    void prepare(const Region& region) {
        const Region t = tilesOf(region);
        for (int tz = t.z0; tz < t.z1; ++tz)
            for (int tx = t.x0; tx < t.x1; ++tx) writableTile(tx, tz);
    }

    // Copies a region out. Precondition: it lies inside the grid and out is at least as large.
    void read(const Region& region, View<T> out) const {
        eachPart(region, [&](int tx, int tz, const Region& part) {
            const T* t = tile(tx, tz);
            for (int z = part.z0; z < part.z1; ++z) {
                T* to = out.row(z - region.z0) + (part.x0 - region.x0);
                if (t) std::copy_n(t + (z % kTile) * kTile + part.x0 % kTile, part.width(), to);
                else std::fill_n(to, part.width(), default_);
            }
        });
    }
    // Copies a region in. Tiles whose samples would not change keep being shared.
    void write(const Region& region, View<const T> in) {
        eachPart(region, [&](int tx, int tz, const Region& part) {
            const T* now = tile(tx, tz);
            bool same = true;
            for (int z = part.z0; z < part.z1 && same; ++z) {
                const T* from = in.row(z - region.z0) + (part.x0 - region.x0);
                const T* to = now ? now + (z % kTile) * kTile + part.x0 % kTile : nullptr;
                same = to ? std::memcmp(from, to, sizeof(T) * part.width()) == 0
                          : std::all_of(from, from + part.width(), [&](T v) { return v == default_; });
            }
            if (same) return;
            T* t = writableTile(tx, tz);
            for (int z = part.z0; z < part.z1; ++z)
                std::copy_n(in.row(z - region.z0) + (part.x0 - region.x0), part.width(),
                            t + (z % kTile) * kTile + part.x0 % kTile);
        });
    }

    // Takes the other grid's tiles where they hold the same bits, so that memory has them once. Precondition: same
    // size.
    void shareEqualTiles(const TiledGrid& other) {
        for (size_t i = 0; i < tiles_->size(); ++i) {
            const CowPtr<Tile>&mine = (*tiles_)[i], &its = (*other.tiles_)[i];
            if (mine && its && !(mine == its) && std::memcmp(mine->data(), its->data(), sizeof(Tile)) == 0)
                tiles_.write()[i] = its;
        }
    }

    // True when both grids share the tile's memory, so that nothing in it can differ.
    bool sharesTile(const TiledGrid& other, int tx, int tz) const { return slot(tx, tz) == other.slot(tx, tz); }
    bool sharesAll(const TiledGrid& other) const { return tiles_ == other.tiles_; }
    // Calls f(tx, tz) for each tile that may differ. Precondition: same size.
    template <class F>
    void eachChangedTile(const TiledGrid& other, F f) const {
        if (sharesAll(other)) return;
        for (int tz = 0; tz < tilesDown(); ++tz)
            for (int tx = 0; tx < tilesAcross(); ++tx)
                if (!sharesTile(other, tx, tz)) f(tx, tz);
    }

    bool operator==(const TiledGrid& other) const {
        if (columns_ != other.columns_ || rows_ != other.rows_) return false;
        bool same = true;
        eachChangedTile(other, [&](int tx, int tz) {
            const Region r = tileRegion(tx, tz);
            for (int z = r.z0; z < r.z1 && same; ++z)
                for (int x = r.x0; x < r.x1 && same; ++x) same = at(x, z) == other.at(x, z);
        });
        return same;
    }

    size_t presentTiles() const {
        return tiles_
                   ? static_cast<size_t>(std::count_if(tiles_->begin(), tiles_->end(), [](auto& t) { return bool(t); }))
                   : 0;
    }
    size_t bytes() const { return tableBytes() + presentTiles() * sizeof(Tile); }
    // Bytes that this grid does not share with `other`: tiles, and its table of them.
    size_t bytesBeside(const TiledGrid& other) const {
        if (columns_ != other.columns_ || rows_ != other.rows_) return bytes();
        if (sharesAll(other)) return 0;
        size_t n = tableBytes();
        eachChangedTile(other, [&](int tx, int tz) { n += slot(tx, tz) ? sizeof(Tile) : 0; });
        return n;
    }

    // Splits a region at tile borders: f(tx, tz, part).
    template <class F>
    void eachPart(const Region& region, F f) const {
        assert(region == region.clipped(bounds()));
        const Region t = tilesOf(region);
        for (int tz = t.z0; tz < t.z1; ++tz)
            for (int tx = t.x0; tx < t.x1; ++tx) f(tx, tz, region.clipped(tileRegion(tx, tz)));
    }

private:
    size_t tableBytes() const { return tiles_ ? tiles_->size() * sizeof(CowPtr<Tile>) : 0; }
    size_t index(int tx, int tz) const {
        assert(tx >= 0 && tz >= 0 && tx < tilesAcross() && tz < tilesDown());
        return static_cast<size_t>(tz) * tilesAcross() + tx;
    }
    const CowPtr<Tile>& slot(int tx, int tz) const { return (*tiles_)[index(tx, tz)]; }

    int columns_ = 0, rows_ = 0;
    T default_{};
    CowPtr<std::vector<CowPtr<Tile>>> tiles_{std::vector<CowPtr<Tile>>{}};
};

}  // namespace jam
