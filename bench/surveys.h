// Rows of bench_core about surveys: what is found out again after a dab, against finding it out from the start; and
// openings against reading the ground.
#pragma once

namespace jam::bench {

void surveyRows();

}  // namespace jam::bench
