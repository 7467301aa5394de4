package audit

import (
	"strings"
	"testing"

	"ojime/internal/core/quantity"
)

func full() Conditions {
	p, n, w, no := quantity.Ptr[float64], quantity.Ptr[int64], quantity.Ptr[string], quantity.Ptr(false)
	return Conditions{Process: w("masked"), LayerUM: p(50), ScalePct: p(100), Piece: "tower", PieceRevision: "3", Resin: "grey", BottleAgeDays: p(10), BottleExpired: no,
		ExposureBasis: w("calibrated"), FilmLayers: p(1000), FilmClouded: no, DaysSinceLevel: p(2), MovedSinceLevel: no, ResinTempC: p(24), Orientation: "upright",
		Supports: "A", Antialiasing: 4.0, WashS: p(100), CureS: p(100), Surface: w("raw"), Software: "carver", Copies: n(4), Specimens: n(5)}
}

// One condition of B is changed at a time; each threshold is met from both
// sides, and a question that it does not bear on gives it no weight.
func TestEveryThresholdOfTheTable(t *testing.T) {
	p, n, w := quantity.Ptr[float64], quantity.Ptr[int64], quantity.Ptr[string]
	yes := quantity.Ptr(true)
	for _, c := range []struct {
		name     string
		factor   string
		question string
		change   func(*Conditions)
		want     string // state and weight
	}{
		{"a micrometre of layer", "layer_um", Detail, func(c *Conditions) { c.LayerUM = p(51) }, "differs major"},
		{"layer and cost", "layer_um", Cost, func(c *Conditions) { c.LayerUM = p(51) }, "differs none"},
		{"layer unknown", "layer_um", Time, func(c *Conditions) { c.LayerUM = nil }, "unknown major"},
		{"rounding noise", "layer_um", Detail, func(c *Conditions) { c.LayerUM = p(50 * (1 + 1e-12)) }, "same none"},
		{"scale and cost", "scale_pct", Cost, func(c *Conditions) { c.ScalePct = p(80) }, "differs major"},
		{"another revision", "piece_revision", Time, func(c *Conditions) { c.PieceRevision = "4" }, "differs major"},
		{"bottle 90 days apart", "bottle_age_days", Detail, func(c *Conditions) { c.BottleAgeDays = p(100) }, "differs none"},
		{"bottle 91 days apart", "bottle_age_days", Detail, func(c *Conditions) { c.BottleAgeDays = p(101) }, "differs minor"},
		{"bottle expired, same age", "bottle_age_days", Failure, func(c *Conditions) { c.BottleExpired = yes }, "differs major"},
		{"bottle expired and time", "bottle_age_days", Time, func(c *Conditions) { c.BottleExpired = yes }, "differs none"},
		{"bottle age unknown", "bottle_age_days", Finish, func(c *Conditions) { c.BottleAgeDays = nil }, "unknown major"},
		{"basis borrowed", "exposure_basis", Dimension, func(c *Conditions) { c.ExposureBasis = w("borrowed") }, "differs minor"},
		{"basis unknown", "exposure_basis", Dimension, func(c *Conditions) { c.ExposureBasis = nil }, "unknown minor"},
		{"film 20,000 apart", "film_layers", Detail, func(c *Conditions) { c.FilmLayers = p(21000) }, "differs none"},
		{"film over it", "film_layers", Detail, func(c *Conditions) { c.FilmLayers = p(21001) }, "differs minor"},
		{"film clouded, layers unknown", "film_layers", Dimension, func(c *Conditions) { c.FilmClouded, c.FilmLayers = yes, nil }, "differs major"},
		{"level 31 days apart", "days_since_level", Failure, func(c *Conditions) { c.DaysSinceLevel = p(33) }, "differs minor"},
		{"moved", "days_since_level", Dimension, func(c *Conditions) { c.MovedSinceLevel = yes }, "differs major"},
		{"moved and detail", "days_since_level", Detail, func(c *Conditions) { c.MovedSinceLevel = yes }, "differs none"},
		{"3 °C", "resin_temp_c", Finish, func(c *Conditions) { c.ResinTempC = p(27) }, "differs none"},
		{"4 °C", "resin_temp_c", Finish, func(c *Conditions) { c.ResinTempC = p(28) }, "differs minor"},
		{"7 °C", "resin_temp_c", Finish, func(c *Conditions) { c.ResinTempC = p(17) }, "differs major"},
		{"wash half longer", "wash_s", Finish, func(c *Conditions) { c.WashS = p(150) }, "differs none"},
		{"wash longer than that", "wash_s", Finish, func(c *Conditions) { c.WashS = p(151) }, "differs minor"},
		{"not cured", "cure_s", Dimension, func(c *Conditions) { c.CureS = p(0) }, "differs minor"},
		{"primed", "surface", Detail, func(c *Conditions) { c.Surface = w("primed") }, "differs major"},
		{"other software", "software", Time, func(c *Conditions) { c.Software = "other" }, "differs minor"},
		{"text is no number", "antialiasing", Detail, func(c *Conditions) { c.Antialiasing = "4" }, "differs minor"},
		{"copies on panels", "copies", Time, func(c *Conditions) { c.Copies = n(8) }, "differs minor"},
		{"copies with a laser", "copies", Time, func(c *Conditions) { c.Copies, c.Process = n(8), w("laser") }, "differs major"},
		{"copies unknown, laser, cost", "copies", Cost, func(c *Conditions) { c.Copies, c.Process = nil, w("laser") }, "unknown minor"},
		{"copies unknown, laser, time", "copies", Time, func(c *Conditions) { c.Copies, c.Process = nil, w("laser") }, "unknown major"},
		{"two specimens", "specimens", Cost, func(c *Conditions) { c.Specimens = n(2) }, "differs minor"},
		{"three specimens", "specimens", Cost, func(c *Conditions) { c.Specimens = n(3) }, "differs none"},
		{"one specimen", "specimens", Detail, func(c *Conditions) { c.Specimens = n(1) }, "differs major"},
		{"specimens unknown", "specimens", Detail, func(c *Conditions) { c.Specimens = nil }, "unknown major"},
	} {
		t.Run(c.name, func(t *testing.T) {
			b := full()
			c.change(&b)
			got, err := Compare(CompareInput{A: full(), B: b, Question: c.question})
			if err != nil {
				t.Fatal(err)
			}
			for _, r := range got.Rows {
				if r.Factor == c.factor && r.State+" "+r.Weight != c.want {
					t.Errorf("%s %s, want %s: %s", r.State, r.Weight, c.want, r.Sentence)
				}
				if !strings.HasSuffix(r.Sentence, ".") {
					t.Errorf("%s: %q is no sentence", r.Factor, r.Sentence)
				}
			}
		})
	}
}

func TestWhatIsUnderTestHasNoWeight(t *testing.T) {
	a, b := full(), full()
	b.LayerUM, b.Specimens = quantity.Ptr(30.0), quantity.Ptr[int64](5)
	got, err := Compare(CompareInput{A: a, B: b, UnderTest: []string{"layer_um", "supports"}, Question: Detail})
	if err != nil {
		t.Fatal(err)
	}
	if got.Grade != Fair || !got.Has("not_varied") || len(got.Warnings.Warnings) != 1 {
		t.Errorf("grade %s, warnings %v: layers vary, supports do not", got.Grade, got.Warnings.Warnings)
	}
	for _, bad := range [][]string{{"specimens"}, {"layer_um", "weather"}} {
		if _, err := Compare(CompareInput{A: a, B: b, UnderTest: bad, Question: Detail}); err == nil {
			t.Errorf("%v was taken for factors under test", bad)
		}
	}
}
