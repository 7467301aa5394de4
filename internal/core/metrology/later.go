package metrology

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"ojime/internal/core/quantity"
	"ojime/internal/core/stats"
	"ojime/internal/say"
)

// DatedReading is a size in mm of one copy, read at an instant, UTC ms.
type DatedReading struct {
	Copy    string
	AtMS    int64
	ValueMM float64
}

// Later is how copies of one print changed since each was first read: Days after it, by
// MeanMM over so many Copies, with its interval by t over them; nil for one copy, or where
// all changed alike. It tells of that print alone.
type Later struct {
	Days   int64
	Copies int
	MeanMM float64
	CI     *quantity.Interval
}

// apartMS is from how long after the one before on a reading is of a later day: long enough
// that a print that was read in the evening is not read anew the same night.
const apartMS = 12 * 3600 * 1000

const dayMS = 24 * 3600 * 1000

// OverDays compares what was read of the same copies on later days with what was read of
// each first: means of one sitting are one value, and a copy is compared with itself.
func OverDays(readings []DatedReading) (out []Later) {
	if len(readings) == 0 {
		return nil
	}
	byTime := func(a, b DatedReading) int { return cmp.Compare(a.AtMS, b.AtMS) }
	if slices.MaxFunc(readings, byTime).AtMS-slices.MinFunc(readings, byTime).AtMS < apartMS {
		return nil
	}
	changes := map[int64][]float64{}
	of := map[string][]DatedReading{}
	for _, r := range readings {
		of[r.Copy] = append(of[r.Copy], r)
	}
	for _, own := range of {
		slices.SortStableFunc(own, byTime)
		sittings := sittingsOf(own)
		for _, s := range sittings[1:] {
			days := int64(math.Round(float64(s.at-sittings[0].at) / dayMS))
			changes[max(1, days)] = append(changes[max(1, days)], s.meanMM-sittings[0].meanMM)
		}
	}
	for days, list := range changes {
		l := Later{Days: days, Copies: len(list), MeanMM: stats.Mean(list)}
		if n := float64(len(list)); n >= 2 {
			if half := stats.T(n-1) * math.Sqrt(stats.SampleVar(list)/n); half > 0 {
				l.CI = &quantity.Interval{l.MeanMM - half, l.MeanMM + half}
			}
		}
		out = append(out, l)
	}
	slices.SortFunc(out, func(a, b Later) int { return cmp.Compare(a.Days, b.Days) })
	return out
}

type sitting struct {
	at     int64
	meanMM float64
}

// sittingsOf are the means of readings that lie close together in time, which rises.
func sittingsOf(readings []DatedReading) (out []sitting) {
	for i := 0; i < len(readings); {
		var values []float64
		last := readings[i].AtMS
		s := sitting{at: last}
		for ; i < len(readings) && readings[i].AtMS-last < apartMS; i++ {
			values, last = append(values, readings[i].ValueMM), readings[i].AtMS
		}
		s.meanMM = stats.Mean(values)
		out = append(out, s)
	}
	return out
}

// Words say of a feature how it changed.
func (l Later) Words(feature string) string {
	text := fmt.Sprintf("%s, %s after the first reading: %s over %s", feature, say.Counted(l.Days, "day"), say.Micrometres(l.MeanMM), say.Counted(int64(l.Copies), "copy", "copies"))
	if l.CI == nil {
		return text + "."
	}
	return text + fmt.Sprintf(" (%s to %s).", say.Micrometres(l.CI[0]), say.Micrometres(l.CI[1]))
}
