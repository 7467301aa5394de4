package metrology

import (
	"fmt"
	"math"

	"ojime/internal/core/stats"
	"ojime/internal/say"
)

// verycoarse are the tolerances of sizes up to each limit in mm: ISO 2768-1, class v; it has
// none below 3 mm, where 0.3 mm is ours.
var veryCoarse = []struct{ upToMM, mm float64 }{{3, 0.3}, {6, 0.5}, {30, 1}, {120, 1.5}, {400, 2.5}, {math.Inf(1), 4}}

// Outliers among the readings of a feature: a modified z above 3.5 (Iglewicz and Hoaglin, How
// to Detect and Handle Outliers, 1993), among at least five others, whose spread is taken as
// no less than what prints of one plate differ by anyhow.
const (
	outlierZ      = 3.5
	fewestOthers  = 5
	leastSpreadMM = 0.03
	madToSD       = 1.4826
)

// units are how many millimetres a reading in another unit, or with its point in the wrong
// place, is taken for; nearShare is how near to the nominal size it must come then, as a share.
var units = []struct {
	factor float64
	says   string
}{{25.4, "that would fit in inches"}, {10, "ten times as much would fit"}, {0.1, "a tenth of it would fit"}, {100, "a hundred times as much would fit"}, {0.01, "a hundredth of it would fit"}, {0.001, "that would fit in micrometres"}}

const nearShare = 0.05

// Slip says why a reading in mm is likelier a slip than a size, as a question; empty where it
// is not. It is asked by units, by the nominal size of the feature in mm, and by the other
// readings of the same feature in mm. Nothing is dropped by it: what is confirmed is kept.
func Slip(valueMM, nominalMM float64, othersMM []float64) string {
	if off := math.Abs(valueMM - nominalMM); off > toleranceOf(nominalMM) {
		for _, u := range units {
			if math.Abs(valueMM*u.factor-nominalMM) <= nearShare*nominalMM {
				return fmt.Sprintf("%s for a nominal of %s? As it is, %s.", say.Reading(valueMM), say.Reading(nominalMM), u.says)
			}
		}
		return fmt.Sprintf("%s for a nominal of %s? That is off by %s mm.", say.Reading(valueMM), say.Reading(nominalMM), say.Figures(off, 3))
	}
	if len(othersMM) < fewestOthers {
		return ""
	}
	middle := stats.Median(othersMM)
	off := make([]float64, len(othersMM))
	for i, v := range othersMM {
		off[i] = math.Abs(v - middle)
	}
	spread := math.Max(madToSD*stats.Median(off), leastSpreadMM)
	if math.Abs(valueMM-middle) > outlierZ*spread {
		return fmt.Sprintf("%s, where the %d others of this feature lie about %s?", say.Reading(valueMM), len(othersMM), say.Reading(middle))
	}
	return ""
}

func toleranceOf(nominalMM float64) float64 {
	i := 0
	for nominalMM > veryCoarse[i].upToMM {
		i++
	}
	return veryCoarse[i].mm
}
