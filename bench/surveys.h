// Rows of bench_core about surveys: what is found out again after a dab, against finding it out from the start;
// openings against reading the ground; and rules that change where a course runs, against running them all over.
#pragma once

namespace jam::bench {

void surveyRows();

}  // namespace jam::bench
