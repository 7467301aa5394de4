package work_test

import (
	"strings"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/work/compare"
)

func TestWhatEyesTellBetweenLayers(t *testing.T) {
	d := newDesk(t)
	fine := d.settings(func(p *bench.Profile) { p.LayerUM = 30 })
	side := func(settings string) []string {
		return []string{d.runOf(1, func(r *bench.Run) {
			if settings != "" {
				r.ProfileID = settings
			}
		}).Run.ID}
	}
	a, b := side(""), side(fine.ID)
	c := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Sides: [][]string{a, b}, Question: "detail"}))(t)
	if len(c.Eyes) != 3 {
		t.Fatalf("%d differences, want the layer steps at three tilts and no pitch: %+v", len(c.Eyes), c.Eyes)
	}
	// 50 less 30 µm at 45° are 14.1 µm, which subtend 0.2' at 243 mm.
	steep := c.Eyes[2]
	if steep.A != 1 || steep.B != 0 || steep.Between.WithinMM < 242 || steep.Between.WithinMM > 244 || !strings.Contains(steep.Says, "under a loupe of 5 ×") {
		t.Errorf("%+v %+v", steep, steep.Between)
	}
	mixed := must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Sides: [][]string{a, append(b, a...)}, Question: "detail"}))(t)
	if len(mixed.Eyes) != 1 || mixed.Eyes[0].Between != nil || !strings.Contains(mixed.Eyes[0].Says, "several layer heights") {
		t.Errorf("%+v", mixed.Eyes)
	}
}
