// How ground that a body cannot walk on to leads on, from 64 samples of a row at once, a bit of a word each.
#pragma once

#include <array>
#include <bit>
#include <cstdint>
#include <vector>

#include "walk/flights.h"

namespace jam {

class FlightRows {
public:
    // For rows [first, end) of the ground, which are copied with room around them: no flight needs to ask where it
    // ends.
    FlightRows(const Flights& flights, const ReachGround& ground, int first, int end);

    // f(column from, row from, node) for what the samples of these rows lead to: every piece that flights from firm
    // ones come by, most of them once; steep samples beside firm ones that flights come by; and what lies beside a
    // sample and no higher, but for steep ground from steep ground. The flights are those of Flights::from.
    template <class F>
    void each(F f) {
        // Down before across, so that what a flight may come by is near at hand.
        for (int c = 0; c < ground_.columns; c += kAtOnce)
            for (int r = first_; r < end_; ++r) {
                const size_t at = place(c, r);
                lead(c, r);
                for (const uint16_t i : flown_)
                    for (uint64_t bits = leads_[i]; bits; bits &= bits - 1) {
                        const int k = std::countr_zero(bits);
                        f(c + k, r, (&nodes_[at] + offsets_[i])[k]);
                    }
            }
    }

private:
    static constexpr int kAtOnce = 64, kRoom = kFarthestFlight + 1;
    // A bit for every sample that was copied, by its place.
    class Marks {
    public:
        template <class Is>
        void make(size_t first, size_t end, Is is);
        // From a place on.
        uint64_t from(size_t at) const {
            const size_t word = at / 64, shift = at % 64;
            return words_[word] >> shift | words_[word + 1] << 1 << (63 - shift);
        }

    private:
        std::vector<uint64_t> words_;
    };
    void lead(int column, int row);
    size_t place(int column, int row) const {
        return static_cast<size_t>(row - first_ + kRoom) * static_cast<size_t>(stride_) +
               static_cast<size_t>(column + kRoom);
    }
    // Which of the samples from a place on have the node of the sample that lies by a step of one, each way.
    uint64_t alike(size_t at, int dc, int dr) const;

    const Flights& flights_;
    const ReachGround& ground_;
    int first_, end_, stride_;
    std::vector<uint32_t> nodes_;
    // Metres: what a flight must clear, which is nothing where there is no ground and cannot be done beyond the border;
    // and the ground as it is, for brows.
    std::vector<float> clear_, heights_;
    Marks pieces_, grounds_;                // samples of a piece; those that have a node
    std::array<Marks, 4> alike_;            // those with the node of the sample before, and of the three above
    std::vector<ptrdiff_t> offsets_;        // of places, from where a flight begins, by hop
    std::vector<uint64_t> passed_, leads_;  // by hop: the samples whose flights came by; those that lead there
    std::vector<uint16_t> flown_;           // hops that any of them came by or lead to
};

}  // namespace jam
