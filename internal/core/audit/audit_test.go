package audit

import (
	"strings"
	"testing"

	"ojime/internal/core/quantity"
)

// full is a side of five prints of which all is known, but the dose.
func full() Conditions {
	return Conditions{Process: One("masked"), LayerUM: One(50.0), ScalePct: One(100.0), Piece: One("tower"), PieceRevision: One("3"), Resin: One("grey"), BottleAgeDays: One(10.0), BottleExpired: One(false),
		ExposureBasis: One("default"), FilmLayers: One(1000.0), FilmClouded: One(false), DaysSinceLevel: One(2.0), MovedSinceLevel: One(false), ResinTempC: One(24.0), Orientation: One("upright"),
		Supports: One("A"), Antialiasing: One(4.0), WashS: One(100.0), CureS: One(100.0), Surface: One("raw"), Software: One("carver"), Machine: One("Ossik 7"), ExposureS: One(2.0), BottomDoseS: One(120.0),
		LightPowerPct: One(100.0), Motion: One("slow"), FilmType: One("soft"), PlateSurface: One("plain"), Accessories: One("none"), Panel: One("panel 1"), Firmware: One("1"), Lot: One("L1"), RoomTempC: One(20.0),
		Place: One("centre"), LightPct: One(100.0), Room: One("garage"), Paused: One(false), Instrument: One("caliper"), SurfaceLight: One("raking"), Station: One("bench"), PrintedMS: One(1e12), Copies: One(4.0), Prints: quantity.Ptr[int64](5)}
}

// One condition of B is changed at a time; each threshold is met from both
// sides, and a question that it does not bear on gives it no weight.
func TestEveryThresholdOfTheTable(t *testing.T) {
	n, yes := quantity.Ptr[int64], One(true)
	for _, c := range []struct {
		name     string
		factor   string
		question string
		change   func(*Conditions)
		want     string // state and weight
	}{
		{"a micrometre of layer", "layer_um", Detail, func(c *Conditions) { c.LayerUM = One(float64(51)) }, "differs major"},
		{"layer and cost", "layer_um", Cost, func(c *Conditions) { c.LayerUM = One(float64(51)) }, "differs none"},
		{"layer unknown", "layer_um", Time, func(c *Conditions) { c.LayerUM = nil }, "unknown major"},
		{"rounding noise", "layer_um", Detail, func(c *Conditions) { c.LayerUM = One(float64(50 * (1 + 1e-12))) }, "same none"},
		{"scale and cost", "scale_pct", Cost, func(c *Conditions) { c.ScalePct = One(float64(80)) }, "differs major"},
		{"another revision", "piece_revision", Time, func(c *Conditions) { c.PieceRevision = One("4") }, "differs major"},
		{"bottle 90 days apart", "bottle_age_days", Detail, func(c *Conditions) { c.BottleAgeDays = One(float64(100)) }, "differs none"},
		{"bottle 91 days apart", "bottle_age_days", Detail, func(c *Conditions) { c.BottleAgeDays = One(float64(101)) }, "differs minor"},
		{"bottle expired, same age", "bottle_age_days", Failure, func(c *Conditions) { c.BottleExpired = yes }, "differs major"},
		{"bottle expired and time", "bottle_age_days", Time, func(c *Conditions) { c.BottleExpired = yes }, "differs none"},
		{"bottle age unknown", "bottle_age_days", Finish, func(c *Conditions) { c.BottleAgeDays = nil }, "unknown major"},
		{"basis borrowed", "exposure_basis", Dimension, func(c *Conditions) { c.ExposureBasis = One("borrowed") }, "differs minor"},
		{"basis unknown", "exposure_basis", Dimension, func(c *Conditions) { c.ExposureBasis = nil }, "unknown minor"},
		{"film 20,000 apart", "film_layers", Detail, func(c *Conditions) { c.FilmLayers = One(float64(21000)) }, "differs none"},
		{"film over it", "film_layers", Detail, func(c *Conditions) { c.FilmLayers = One(float64(21001)) }, "differs minor"},
		{"film clouded, layers unknown", "film_layers", Dimension, func(c *Conditions) { c.FilmClouded, c.FilmLayers = yes, nil }, "differs major"},
		{"level 31 days apart", "days_since_level", Failure, func(c *Conditions) { c.DaysSinceLevel = One(float64(33)) }, "differs minor"},
		{"moved", "days_since_level", Dimension, func(c *Conditions) { c.MovedSinceLevel = yes }, "differs major"},
		{"moved and detail", "days_since_level", Detail, func(c *Conditions) { c.MovedSinceLevel = yes }, "differs none"},
		{"light 5 % weaker", "light_pct", Detail, func(c *Conditions) { c.LightPct = One(95.0) }, "differs none"},
		{"light 6 % weaker", "light_pct", Detail, func(c *Conditions) { c.LightPct = One(94.0) }, "differs minor"},
		{"light 15 % weaker", "light_pct", Failure, func(c *Conditions) { c.LightPct = One(85.0) }, "differs minor"},
		{"light 16 % weaker", "light_pct", Failure, func(c *Conditions) { c.LightPct = One(84.0) }, "differs major"},
		{"light and time", "light_pct", Time, func(c *Conditions) { c.LightPct = One(80.0) }, "differs none"},
		{"another room", "room", Failure, func(c *Conditions) { c.Room = One("attic") }, "differs minor"},
		{"another room and cost", "room", Cost, func(c *Conditions) { c.Room = One("attic") }, "differs none"},
		{"3 °C", "resin_temp_c", Finish, func(c *Conditions) { c.ResinTempC = One(float64(27)) }, "differs none"},
		{"4 °C", "resin_temp_c", Finish, func(c *Conditions) { c.ResinTempC = One(float64(28)) }, "differs minor"},
		{"7 °C", "resin_temp_c", Finish, func(c *Conditions) { c.ResinTempC = One(float64(17)) }, "differs major"},
		{"wash half longer", "wash_s", Finish, func(c *Conditions) { c.WashS = One(float64(150)) }, "differs none"},
		{"wash longer than that", "wash_s", Finish, func(c *Conditions) { c.WashS = One(float64(151)) }, "differs minor"},
		{"not cured", "cure_s", Dimension, func(c *Conditions) { c.CureS = One(float64(0)) }, "differs minor"},
		{"primed", "surface", Detail, func(c *Conditions) { c.Surface = One("primed") }, "differs major"},
		{"other software", "software", Time, func(c *Conditions) { c.Software = One("other") }, "differs minor"},
		{"text is no number", "antialiasing", Detail, func(c *Conditions) { c.Antialiasing = One("4") }, "differs minor"},
		{"copies on panels", "copies", Time, func(c *Conditions) { c.Copies = One(8.0) }, "differs minor"},
		{"copies with a laser", "copies", Time, func(c *Conditions) { c.Copies, c.Process = One(8.0), One("laser") }, "differs major"},
		{"copies unknown, laser, cost", "copies", Cost, func(c *Conditions) { c.Copies, c.Process = nil, One("laser") }, "unknown minor"},
		{"copies unknown, laser, time", "copies", Time, func(c *Conditions) { c.Copies, c.Process = nil, One("laser") }, "unknown major"},
		{"two prints", "prints", Cost, func(c *Conditions) { c.Prints = n(2) }, "differs minor"},
		{"three prints", "prints", Cost, func(c *Conditions) { c.Prints = n(3) }, "differs none"},
		{"one print", "prints", Detail, func(c *Conditions) { c.Prints = n(1) }, "differs major"},
		{"prints unknown", "prints", Detail, func(c *Conditions) { c.Prints = nil }, "unknown major"},
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
	b.LayerUM = One(30.0)
	got, err := Compare(CompareInput{A: a, B: b, UnderTest: []string{"layer_um", "supports"}, Question: Detail})
	if err != nil {
		t.Fatal(err)
	}
	if got.Grade != Fair || !got.Has("not_varied") || len(got.Warnings.Warnings) != 1 {
		t.Errorf("grade %s, warnings %v: layers vary, supports do not", got.Grade, got.Warnings.Warnings)
	}
	for _, bad := range [][]string{{"prints"}, {"layer_um", "weather"}} {
		if _, err := Compare(CompareInput{A: a, B: b, UnderTest: bad, Question: Detail}); err == nil {
			t.Errorf("%v was taken for factors under test", bad)
		}
	}
}
