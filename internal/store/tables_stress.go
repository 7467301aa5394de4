package store

import (
	"strings"

	"ojime/internal/bench"
	"ojime/internal/store/db"
)

// SaveStressSeries writes a series of stress tests.
func (t *Tx) SaveStressSeries(v bench.StressSeries) error {
	return saved("stress series", t.q.SaveStressSeries(t.ctx, db.SaveStressSeriesParams(v)))
}

// StressSeries reads one series of stress tests, or bench.ErrNotFound.
func (t *Tx) StressSeries(id string) (bench.StressSeries, error) {
	row, err := t.q.StressSeriesByID(t.ctx, id)
	return bench.StressSeries(row), read("stress series", id, err)
}

// AllStressSeries lists every series of stress tests in its order.
func (t *Tx) AllStressSeries() ([]bench.StressSeries, error) {
	rows, err := t.q.AllStressSeries(t.ctx)
	return list("stress series", rows, err, func(r db.StressSeries) bench.StressSeries { return bench.StressSeries(r) })
}

// SaveStressSpecimen writes a specimen of a series, or what was measured of it.
func (t *Tx) SaveStressSpecimen(v bench.StressSpecimen) error {
	return saved("specimen of a stress series", t.q.SaveStressSpecimen(t.ctx, db.SaveStressSpecimenParams(v)))
}

// StressSpecimens lists the specimens of all series.
func (t *Tx) StressSpecimens() ([]bench.StressSpecimen, error) {
	rows, err := t.q.StressSpecimens(t.ctx)
	return list("specimens of stress series", rows, err, func(r db.StressSpecimen) bench.StressSpecimen { return bench.StressSpecimen(r) })
}

// StressSpecimensOf lists the specimens of one series in their order.
func (t *Tx) StressSpecimensOf(seriesID string) ([]bench.StressSpecimen, error) {
	rows, err := t.q.StressSpecimensOfSeries(t.ctx, seriesID)
	return list("specimens of stress series", rows, err, func(r db.StressSpecimen) bench.StressSpecimen { return bench.StressSpecimen(r) })
}

// SaveStressTest appends what a test showed, or takes it back.
func (t *Tx) SaveStressTest(v bench.StressTest) error {
	return saved("stress test", t.q.SaveStressTest(t.ctx, db.SaveStressTestParams(v)))
}

// StressTests lists every stress test in its order, also those taken back.
func (t *Tx) StressTests() ([]bench.StressTest, error) {
	rows, err := t.q.StressTests(t.ctx)
	return list("stress tests", rows, err, func(r db.StressTest) bench.StressTest { return bench.StressTest(r) })
}

// StressTestsOf lists the tests of one series in their order, also those taken back.
func (t *Tx) StressTestsOf(seriesID string) ([]bench.StressTest, error) {
	rows, err := t.q.StressTestsOfSeries(t.ctx, seriesID)
	return list("stress tests", rows, err, func(r db.StressTest) bench.StressTest { return bench.StressTest(r) })
}

// StressedOfRuns lists, by run, the specimens of runs in their series with all their tests.
func (t *Tx) StressedOfRuns(runIDs []string) (map[string][]bench.Stressed, error) {
	return askLists(t, stressedKey{strings.Join(runIDs, " ")}, []string{"stress_specimen", "stress_test", "stress_series"}, func() (map[string][]bench.Stressed, error) { return t.stressedOfRuns(runIDs) })
}

type stressedKey struct{ runs string }

func (t *Tx) stressedOfRuns(runIDs []string) (map[string][]bench.Stressed, error) {
	out := map[string][]bench.Stressed{}
	members, err := t.q.StressSpecimensOfRuns(t.ctx, runIDs)
	if err != nil || len(members) == 0 {
		return out, read("stress series", "of runs", err)
	}
	rows, err := t.q.StressTestsOfRuns(t.ctx, runIDs)
	if err != nil {
		return out, read("stress tests", "of runs", err)
	}
	type seat struct{ series, specimen string }
	tests := map[seat][]bench.StressTest{}
	for _, r := range rows {
		at := seat{r.StressTest.StressSeriesID, r.StressTest.SpecimenID}
		tests[at] = append(tests[at], bench.StressTest(r.StressTest))
	}
	series := map[string]bench.StressSeries{}
	for _, m := range members {
		of, known := series[m.StressSpecimen.StressSeriesID]
		if !known {
			if of, err = t.StressSeries(m.StressSpecimen.StressSeriesID); err != nil {
				return out, err
			}
			series[of.ID] = of
		}
		own := tests[seat{of.ID, m.StressSpecimen.SpecimenID}]
		if own == nil {
			own = []bench.StressTest{}
		}
		out[m.RunID] = append(out[m.RunID], bench.Stressed{StressSpecimen: bench.StressSpecimen(m.StressSpecimen), Series: of, Tests: own})
	}
	return out, nil
}
