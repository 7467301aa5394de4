package audit

import (
	"errors"
	"math/rand/v2"
	"strings"
	"testing"

	"ojime/internal/core/quantity"
)

// between compares two full sides, of which some conditions are changed, and gives the
// row of a factor.
func between(t *testing.T, factor string, in CompareInput, change func(a, b *Conditions)) (CompareResult, Row) {
	t.Helper()
	in.A, in.B = full(), full()
	if in.Question == "" {
		in.Question = Detail
	}
	change(&in.A, &in.B)
	out, err := Compare(in)
	if err != nil {
		t.Fatal(err)
	}
	for _, r := range out.Rows {
		if r.Factor == factor {
			return out, r
		}
	}
	t.Fatalf("there is no row of %s", factor)
	return out, Row{}
}

// A mean hides what prints do: hot and cold prints against two of middle warmth are not
// like against like.
func TestPrintsAreNotAveraged(t *testing.T) {
	for _, c := range []struct {
		name        string
		a, b        Values
		want, grade string
	}{
		{"hot and cold", Values{18.0, 30.0}, Values{24.0, 24.0}, "varies major", NotComparable},
		{"four degrees within", Values{22.0, 26.0}, Values{24.0, 24.0}, "varies minor", WithCaveats},
		{"three degrees within", Values{22.0, 25.0}, One(24.0), "differs none", Fair},
		{"each side alike, four apart", Values{22.0, 22.0}, Values{26.0, 26.0, 26.0}, "differs minor", WithCaveats},
		{"a little each, seven in all", Values{20.0, 22.0}, Values{25.0, 27.0}, "differs major", NotComparable},
		{"of different number, alike", Values{24.0, 24.0, 24.0}, One(24.0), "same none", Fair},
		{"one not known", Values{24.0, nil}, One(24.0), "unknown major", NotFullyKnown},
		{"one not known, the others a little apart", Values{22.0, nil, 26.0}, One(24.0), "unknown major", NotFullyKnown},
		{"one not known, the others far apart", Values{18.0, nil, 26.0}, One(24.0), "varies major", NotComparable},
		{"none known", Values{}, Values{nil, nil}, "unknown major", NotFullyKnown},
	} {
		out, row := between(t, "resin_temp_c", CompareInput{}, func(a, b *Conditions) { a.ResinTempC, b.ResinTempC = c.a, c.b })
		if got := row.State + " " + row.Weight; got != c.want || out.Grade != c.grade {
			t.Errorf("%s: %s, %s; want %s, %s: %s", c.name, got, out.Grade, c.want, c.grade, row.Sentence)
		}
	}
}

func TestSentencesNameRangesAndWords(t *testing.T) {
	for want, change := range map[string]func(a, b *Conditions){
		"Resin temperature: 18 to 30 °C in A, 24 °C in B;":                       func(a, _ *Conditions) { a.ResinTempC = Values{18.0, 30.0} },
		"Resin temperature: 24 °C (not known of 1 print) in A, 24 °C in B;":      func(a, _ *Conditions) { a.ResinTempC = Values{24.0, nil} },
		"Resin: grey and clear in A, grey in B; resin and machine cannot":        func(a, _ *Conditions) { a.Resin = Values{"grey", "clear", "grey"} },
		"Layers on the film: 1 000 in A, 25 000 in B; a worn film":               func(_, b *Conditions) { b.FilmLayers = One(25000.0) },
		"Days since levelling: 2 on both sides; moved since levelling in A only": func(a, _ *Conditions) { a.MovedSinceLevel = Values{false, true} },
		"Layers on the film: 1 000 on both sides; clouded in both, so neither":   func(a, b *Conditions) { a.FilmClouded, b.FilmClouded = One(true), One(true) },
		"Paused or topped up while printing: no and yes in A, no in B; a pause":  func(a, _ *Conditions) { a.Paused = Values{false, true} },
	} {
		in := CompareInput{A: full(), B: full(), Question: Failure}
		change(&in.A, &in.B)
		out, err := Compare(in)
		if err != nil {
			t.Fatal(err)
		}
		found := false
		for _, r := range out.Rows {
			found = found || strings.HasPrefix(r.Sentence, want)
		}
		if !found {
			t.Errorf("no sentence begins with %q", want)
		}
	}
}

func TestAFlagOnBothSidesMeansNeitherIsInOrder(t *testing.T) {
	for _, c := range []struct {
		question, want string
		a, b           Values
	}{
		{Detail, "same minor", One(true), Values{false, true}}, {Detail, "differs major", One(true), Values{false, nil}}, {Time, "same none", One(true), One(true)}, {Detail, "same none", nil, One(false)},
	} {
		_, row := between(t, "film_layers", CompareInput{Question: c.question}, func(a, b *Conditions) { a.FilmClouded, b.FilmClouded = c.a, c.b })
		if got := row.State + " " + row.Weight; got != c.want {
			t.Errorf("%v against %v for %s: %s, want %s", c.a, c.b, c.question, got, c.want)
		}
	}
}

func TestWhatIsUnderTestIsHeldWithinASide(t *testing.T) {
	out, row := between(t, "resin", CompareInput{UnderTest: []string{"resin"}, Question: Cost}, func(a, b *Conditions) { a.Resin, b.Resin = Values{"grey", "clear"}, One("clear") })
	if row.State != Varies || row.Weight != Major || !out.Has("not_held") || out.Has("not_varied") || out.Grade != NotComparable {
		t.Errorf("mixed within a side: %+v, %+v", row, out.Warnings)
	}
	out, row = between(t, "resin_temp_c", CompareInput{UnderTest: []string{"resin_temp_c"}}, func(a, b *Conditions) { a.ResinTempC, b.ResinTempC = Values{19.0, 21.0}, Values{30.0, 33.0} })
	if row.State != UnderTest || row.Weight != None || out.Grade != Fair || len(out.Warnings.Warnings) != 0 {
		t.Errorf("held within three degrees: %+v, %+v", row, out.Warnings)
	}
	out, _ = between(t, "resin", CompareInput{UnderTest: []string{"resin"}}, func(a, _ *Conditions) { a.Resin = Values{"grey", nil} })
	if !out.Has("not_varied") {
		t.Error("one that is not known is taken to vary")
	}
}

// A machine brings what is its own along, unless that changed on the way, or is itself
// what is tested.
func TestAMachineBringsItsOwnAlong(t *testing.T) {
	other := func(a, b *Conditions) {
		b.Machine, b.Panel, b.Firmware, b.Motion, b.FilmType, b.PlateSurface, b.Accessories = One("Grell"), One("p9"), One("9"), One("tilt"), One("hard"), One("scored"), One("heater")
		a.ExposureBasis, b.ExposureBasis = One("calibrated"), One("calibrated")
	}
	for _, factor := range []string{"machine", "panel", "firmware", "motion", "film_type", "plate_surface", "accessories"} {
		out, row := between(t, factor, CompareInput{UnderTest: []string{"machine"}}, other)
		if row.State != UnderTest || row.Weight != None || out.Grade != Fair || len(out.Warnings.Warnings) != 0 {
			t.Errorf("%s: %+v, %s, %v", factor, row, out.Grade, out.Warnings)
		}
	}
	_, row := between(t, "firmware", CompareInput{UnderTest: []string{"machine"}}, func(a, b *Conditions) { other(a, b); a.Firmware = Values{"1", "2"} })
	if row.State != Varies || row.Weight != Minor {
		t.Errorf("firmware that changed on the way: %+v", row)
	}
	out, row := between(t, "firmware", CompareInput{UnderTest: []string{"machine", "firmware"}}, func(a, b *Conditions) { other(a, b); b.Firmware = a.Firmware })
	if row.State != UnderTest || !out.Has("not_varied") {
		t.Errorf("named itself, it has to vary: %+v", row)
	}
	_, row = between(t, "lot", CompareInput{UnderTest: []string{"resin"}}, func(_, b *Conditions) { b.Resin, b.Lot = One("clear"), One("L2") })
	if row.State != UnderTest {
		t.Errorf("a resin brings its lot: %+v", row)
	}
}

// Seconds on two machines are not one dose.
func TestSecondsAreADoseOnOneLightOnly(t *testing.T) {
	two := func(_, b *Conditions) { b.Machine, b.Panel = One("Grell"), One("p9") }
	measured := func(a, b *Conditions) { two(a, b); a.DoseMJCM2, b.DoseMJCM2 = Values{8.0, 8.1}, One(8.0) }
	for _, c := range []struct {
		name, factor, want string
		policy             string
		change             func(a, b *Conditions)
	}{
		{"one machine, other seconds", "exposure_s", "differs minor", "", func(_, b *Conditions) { b.ExposureS = One(2.1) }},
		{"one machine, seconds within two per cent", "exposure_s", "differs none", "", func(_, b *Conditions) { b.ExposureS = One(2.04) }},
		{"the same seconds on two machines", "exposure_s", "unknown minor", "", two},
		{"on two machines with measured doses", "exposure_s", "unknown none", "", measured},
		{"those doses", "dose_mj_cm2", "differs none", "", measured},
		{"doses too far apart", "dose_mj_cm2", "differs minor", "", func(a, b *Conditions) { measured(a, b); b.DoseMJCM2 = One(9.0) }},
		{"each calibrated", "exposure_s", "same none", "", func(a, b *Conditions) {
			two(a, b)
			a.ExposureBasis, b.ExposureBasis = One("calibrated"), Values{"calibrated"}
		}},
		{"one print not calibrated", "exposure_s", "unknown minor", "", func(a, b *Conditions) {
			two(a, b)
			a.ExposureBasis, b.ExposureBasis = One("calibrated"), Values{"calibrated", "own"}
		}},
		{"makers' defaults, as promised", "exposure_s", "differs none", MakerDefault, func(a, b *Conditions) { two(a, b); b.ExposureS = One(4.0) }},
		{"the same settings, promised", "exposure_s", "differs major", SameSettings, func(a, b *Conditions) { two(a, b); b.ExposureS = One(4.0) }},
		{"a machine that is not known of a print", "exposure_s", "unknown minor", "", func(a, _ *Conditions) { a.Machine = Values{"Ossik 7", nil} }},
	} {
		in := CompareInput{}
		if c.policy != "" {
			in.Policy = &c.policy
		}
		if _, row := between(t, c.factor, in, c.change); row.State+" "+row.Weight != c.want {
			t.Errorf("%s: %s %s, want %s: %s", c.name, row.State, row.Weight, c.want, row.Sentence)
		}
	}
}

func TestAPolicyIsHeldAgainstTheDials(t *testing.T) {
	for _, c := range []struct {
		policy, factor, question, want string
		change                         func(a, b *Conditions)
	}{
		{SameSettings, "motion", Cost, "differs major", func(_, b *Conditions) { b.Motion = One("fast") }},
		{SameSettings, "motion", Cost, "unknown major", func(_, b *Conditions) { b.Motion = Values{"slow", nil} }},
		{SameSettings, "exposure_s", Time, "same none", func(_, b *Conditions) { b.ExposureS = One(2.0) }},
		{SameSettings, "exposure_s", Time, "differs none", func(_, b *Conditions) { b.ExposureS = One(2.03) }},
		{SameSettings, "bottom_dose_s", Detail, "differs major", func(a, _ *Conditions) { a.BottomDoseS = Values{120.0, 0.0} }},
		{SameSettings, "light_power_pct", Detail, "differs minor", func(_, b *Conditions) { b.LightPowerPct = One(80.0) }},
		{MakerDefault, "exposure_basis", Cost, "differs major", func(a, _ *Conditions) { a.ExposureBasis = Values{"default", "borrowed"} }},
		{MakerDefault, "exposure_basis", Detail, "same none", func(_, _ *Conditions) {}},
		{EachCalibrated, "exposure_basis", Time, "differs major", func(_, _ *Conditions) {}},
		{EachCalibrated, "exposure_basis", Detail, "unknown minor", func(a, b *Conditions) {
			a.ExposureBasis, b.ExposureBasis = Values{"calibrated", nil}, One("calibrated")
		}},
	} {
		_, row := between(t, c.factor, CompareInput{Policy: &c.policy, Question: c.question}, c.change)
		if row.State+" "+row.Weight != c.want {
			t.Errorf("%s, %s: %s %s, want %s: %s", c.policy, c.factor, row.State, row.Weight, c.want, row.Sentence)
		}
	}
	promised := MakerDefault
	if _, row := between(t, "exposure_basis", CompareInput{Policy: &promised, UnderTest: []string{"exposure_basis"}}, func(_, b *Conditions) { b.ExposureBasis = One("calibrated") }); row.State != UnderTest {
		t.Errorf("what is tested is not held against the policy: %+v", row)
	}
}

func TestPrintsLongApartAreACaveat(t *testing.T) {
	const day = 24 * 60 * 60 * 1000.0
	for _, c := range []struct {
		a, b Values
		want string
	}{
		{Values{0.0, 50 * day}, Values{20 * day, 30 * day}, "differs none"}, {Values{0.0, day, 2 * day}, Values{31 * day}, "differs none"}, {Values{0.0, day, 2 * day}, Values{31*day + 1000}, "differs minor"},
		{Values{0.0}, Values{nil}, "unknown minor"}, {Values{5.0}, Values{5.0, 5.0}, "same none"},
	} {
		if _, row := between(t, "printed_ms", CompareInput{}, func(a, b *Conditions) { a.PrintedMS, b.PrintedMS = c.a, c.b }); row.State+" "+row.Weight != c.want {
			t.Errorf("%v against %v: %s %s, want %s", c.a, c.b, row.State, row.Weight, c.want)
		}
	}
}

func TestConditionsThatCannotBe(t *testing.T) {
	for path, change := range map[string]func(*CompareInput){
		"question": func(in *CompareInput) { in.Question = "beauty" }, "policy": func(in *CompareInput) { in.Policy = quantity.Ptr("fair play") }, "under_test[1]": func(in *CompareInput) { in.UnderTest = []string{"resin", "prints"} },
		"a.layer_um": func(in *CompareInput) { in.A.LayerUM = One(0.0) }, "b.resin_temp_c[1]": func(in *CompareInput) { in.B.ResinTempC = Values{nil, "warm"} }, "a.process": func(in *CompareInput) { in.A.Process = One("ink") },
		"b.exposure_basis[0]": func(in *CompareInput) { in.B.ExposureBasis = Values{"guess", nil} }, "a.surface": func(in *CompareInput) { in.A.Surface = One(3.0) }, "a.film_clouded": func(in *CompareInput) { in.A.FilmClouded = One("yes") },
		"a.paused[1]": func(in *CompareInput) { in.A.Paused = Values{true, 1.0} }, "b.copies": func(in *CompareInput) { in.B.Copies = One(1.5) }, "b.prints": func(in *CompareInput) { in.B.Prints = quantity.Ptr[int64](0) },
		"a.bottom_dose_s": func(in *CompareInput) { in.A.BottomDoseS = One(-1.0) },
	} {
		in := CompareInput{A: full(), B: full(), Question: Detail}
		change(&in)
		_, err := Compare(in)
		var wrong *quantity.FieldError
		if !errors.As(err, &wrong) || wrong.Path != path {
			t.Errorf("error %v, want one of field %s", err, path)
		}
	}
	var v Values
	if err := v.Take("a.resin", []any{"grey", []any{"clear"}}); err == nil || !strings.HasPrefix(err.Error(), "a.resin[1]") {
		t.Errorf("a list in a list: %v", err)
	}
}

// Which side is which, and in which order its prints stand, changes no row.
func TestOrderChangesNothing(t *testing.T) {
	chance := rand.New(rand.NewPCG(31, 5))
	some := func(values ...any) (out Values) {
		for range chance.IntN(4) {
			out = append(out, values[chance.IntN(len(values))])
		}
		return out
	}
	side := func() Conditions {
		c := full()
		c.ResinTempC, c.Resin, c.Machine, c.Firmware, c.ExposureS, c.ExposureBasis = some(20.0, 24.0, 31.0, nil), some("grey", "clear", nil), some("one", "two", nil), some("1", "2"), some(2.0, 3.0, nil), some("default", "calibrated", nil)
		c.FilmClouded, c.PrintedMS, c.Copies = some(true, false, nil), some(1.0, 1e10, nil), some(1.0, 6.0)
		return c
	}
	for range 500 {
		in := CompareInput{A: side(), B: side(), Question: Questions[chance.IntN(len(Questions))], UnderTest: [][]string{nil, {"machine"}, {"resin", "machine"}}[chance.IntN(3)]}
		if policy := []string{"", SameSettings, MakerDefault, EachCalibrated}[chance.IntN(4)]; policy != "" {
			in.Policy = &policy
		}
		one, err := Compare(in)
		if err != nil {
			t.Fatal(err)
		}
		turned := in
		turned.A, turned.B = in.B, in.A
		turned.A.ResinTempC = append(Values{}, in.B.ResinTempC...)
		chance.Shuffle(len(turned.A.ResinTempC), func(i, j int) {
			turned.A.ResinTempC[i], turned.A.ResinTempC[j] = turned.A.ResinTempC[j], turned.A.ResinTempC[i]
		})
		other, err := Compare(turned)
		if err != nil {
			t.Fatal(err)
		}
		for i, r := range one.Rows {
			if o := other.Rows[i]; r.State != o.State || r.Weight != o.Weight {
				t.Fatalf("%+v, turned %+v", r, o)
			}
		}
		if one.Grade != other.Grade {
			t.Fatalf("%s, turned %s", one.Grade, other.Grade)
		}
	}
}

// What few benches note is asked of nobody; told on one side only, it is not fully known.
func TestWhatFewNoteStandsInNobodysWay(t *testing.T) {
	rows := func(a, b Conditions) map[string]Row {
		out := map[string]Row{}
		res, err := Compare(CompareInput{A: a, B: b, Question: Finish})
		if err != nil {
			t.Fatal(err)
		}
		for _, r := range res.Rows {
			out[r.Factor] = r
		}
		return out
	}
	plain := Conditions{ResinTempC: One(24.0)}
	for _, factor := range []string{"room_outside", "room_drifted", "humidity_pct", "heater_on"} {
		if _, there := rows(plain, plain)[factor]; there {
			t.Errorf("%s stands there though neither side tells it", factor)
		}
	}
	damp := Conditions{ResinTempC: One(24.0), HumidityPct: One(70.0), RoomOutside: One(true)}
	got := rows(damp, plain)
	if r := got["humidity_pct"]; r.State != Unknown {
		t.Errorf("told on one side: %+v", r)
	}
	out := rows(damp, Conditions{ResinTempC: One(31.0), RoomOutside: One(false)})
	if r := out["room_outside"]; r.State != Differs || r.Weight != Minor {
		t.Errorf("outside its window: %+v", r)
	}
	// Being outside both windows takes nothing off what the temperatures do.
	if r := rows(damp, Conditions{ResinTempC: One(31.0), RoomOutside: One(true)})["resin_temp_c"]; r.Weight != Major {
		t.Errorf("seven degrees apart: %+v", r)
	}
	dry := Conditions{ResinTempC: One(24.0), HumidityPct: One(45.0)}
	if r := rows(damp, dry)["humidity_pct"]; r.State != Differs || r.Weight != Minor {
		t.Errorf("25 %% apart: %+v", r)
	}
}
