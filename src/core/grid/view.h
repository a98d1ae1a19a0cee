// A rectangle of samples in memory that somebody else owns. Kernels work on views and never own.
#pragma once

#include <cstddef>
#include <vector>

namespace jam {

using std::size_t;

template <class T>
struct View {
    T* data = nullptr;
    int width = 0, depth = 0;
    int stride = 0;  // elements from one row to the next

    T* row(int z) const { return data + static_cast<long long>(z) * stride; }
    T& at(int x, int z) const { return row(z)[x]; }
    View part(int x, int z, int w, int d) const { return {row(z) + x, w, d, stride}; }
    operator View<const T>() const { return {data, width, depth, stride}; }
};

// An owned rectangle, for scratch and for whole-ground work.
template <class T>
class Raster {
public:
    Raster() = default;
    Raster(int width, int depth, T value = T{})
        : width_(width), depth_(depth), data_(static_cast<size_t>(width) * depth, value) {}

    // Grows or shrinks; the contents become unspecified.
    void reshape(int width, int depth) {
        width_ = width;
        depth_ = depth;
        if (data_.size() < static_cast<size_t>(width) * depth) data_.resize(static_cast<size_t>(width) * depth);
    }
    int width() const { return width_; }
    int depth() const { return depth_; }
    T& at(int x, int z) { return data_[static_cast<size_t>(z) * width_ + x]; }
    const T& at(int x, int z) const { return data_[static_cast<size_t>(z) * width_ + x]; }
    View<T> view() { return {data_.data(), width_, depth_, width_}; }
    View<const T> view() const { return {data_.data(), width_, depth_, width_}; }

private:
    int width_ = 0, depth_ = 0;
    std::vector<T> data_;
};

}  // namespace jam
