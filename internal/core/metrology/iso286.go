package metrology

import (
	"math"

	"ojime/internal/core/quantity"
)

// sizeSteps are the nominal size steps of ISO 286-1 in millimetres: over one
// number, up to and including the next. The first step's D1 is taken as 1.
var sizeSteps = []float64{0, 3, 6, 10, 18, 30, 50, 80, 120, 180, 250}

// gradeFactors are the multiples of the tolerance unit i for IT5 to IT18
// (ISO 286-1).
var gradeFactors = []float64{7, 10, 16, 25, 40, 64, 100, 160, 250, 400, 640, 1000, 1600, 2500}

// finestGrade is the grade of gradeFactors[0].
const finestGrade = 5

// itGrade is the finest grade (5 to 18) with 2·|error| within its limit, i =
// 0.45·∛D + 0.001·D µm with D the geometric mean of the size step; nil beyond
// IT18 or 250 mm.
func itGrade(nominalMM, errorMM float64) *int {
	for s := 1; s < len(sizeSteps); s++ {
		if nominalMM > sizeSteps[s] {
			continue
		}
		d := math.Sqrt(math.Max(1, sizeSteps[s-1]) * sizeSteps[s])
		unit := 0.45*math.Cbrt(d) + 0.001*d
		for g, factor := range gradeFactors {
			if quantity.AtMost(2000*math.Abs(errorMM), factor*unit) {
				return quantity.Ptr(finestGrade + g)
			}
		}
		return nil
	}
	return nil
}
