package finding

import (
	"strings"
	"testing"

	"ojime/internal/core/audit"
	"ojime/internal/core/contest"
	"ojime/internal/core/evidence"
	"ojime/internal/core/quantity"
)

// best is evidence that nothing can be said against.
func best() Evidence {
	return Evidence{How: Measured, Known: true, Prints: 6, Verdict: evidence.Clear, CanShow: true, Among: 14, Audit: audit.Fair}
}

func TestAGradeIsTheStrongestWordThatTheEvidenceCarries(t *testing.T) {
	for name, c := range map[string]struct {
		change func(*Evidence)
		grade  string
		says   string
	}{
		"clear, fair, six prints":            {func(*Evidence) {}, Showed, ""},
		"counted":                            {func(e *Evidence) { e.How = Counted }, Showed, ""},
		"likely":                             {func(e *Evidence) { e.Verdict = evidence.Likely }, Suggests, "one of 14 in its table"},
		"likely and alone":                   {func(e *Evidence) { e.Verdict, e.Among = evidence.Likely, 1 }, Suggests, "not declared"},
		"likely, declared before":            {func(e *Evidence) { e.Verdict, e.Deciding = evidence.Likely, true }, Showed, ""},
		"caveats":                            {func(e *Evidence) { e.Audit = audit.WithCaveats }, Suggests, "differs, too"},
		"not fully known":                    {func(e *Evidence) { e.Audit = audit.NotFullyKnown }, Suggests, "known"},
		"not comparable":                     {func(e *Evidence) { e.Audit = audit.NotComparable }, CannotTell, "may be all of it"},
		"two prints":                         {func(e *Evidence) { e.Prints = 2 }, CannotTell, "2 prints"},
		"three prints":                       {func(e *Evidence) { e.Prints = 3 }, Showed, ""},
		"an eye that knew":                   {func(e *Evidence) { e.How = Judged }, Looked, "knew"},
		"a reference":                        {func(e *Evidence) { e.Reference, e.Prints = true, 0 }, Looked, "one making"},
		"not shown":                          {func(e *Evidence) { e.Verdict = evidence.NotShown }, CannotTell, "not shown"},
		"could not show":                     {func(e *Evidence) { e.Verdict, e.CanShow = evidence.NotShown, false }, CannotTell, "whatever came out"},
		"no figure":                          {func(e *Evidence) { e.Known = false }, NotTested, "no figure"},
		"blind, clear, three judges":         {func(e *Evidence) { e.How, e.Prints, e.Audit = Blind, 1, "" }, Showed, ""},
		"blind, and they knew":               {func(e *Evidence) { e.How, e.Audit, e.Knew = Blind, "", true }, Suggests, "believed"},
		"blind, opened early":                {func(e *Evidence) { e.How, e.Audit, e.OpenedEarly = Blind, "", true }, Looked, "before all"},
		"blind, too few judges":              {func(e *Evidence) { e.How, e.Verdict, e.CanShow = Blind, evidence.NotShown, false }, CannotTell, "few judges"},
		"a cost whose intervals lie apart":   {func(e *Evidence) { e.How, e.Verdict, e.Apart = Computed, "", true }, Suggests, "no test"},
		"a cost whose intervals overlap":     {func(e *Evidence) { e.How, e.Verdict = Computed, "" }, CannotTell, "overlap"},
		"the reviewer's word":                {func(e *Evidence) { *e = Evidence{How: Said} }, Looked, "word"},
		"judged, and a side not comparable":  {func(e *Evidence) { e.How, e.Audit = Judged, audit.NotComparable }, CannotTell, "may be all"},
		"likely with caveats gives both why": {func(e *Evidence) { e.Verdict, e.Audit = evidence.Likely, audit.WithCaveats }, Suggests, "differs, too"},
	} {
		e := best()
		c.change(&e)
		got := Grade(e)
		if got.Grade != c.grade || !strings.Contains(strings.Join(got.Because, "; "), c.says) || (c.says == "") != (len(got.Because) == 0) {
			t.Errorf("%s: %s (%s), not %s (%s)", name, got.Grade, strings.Join(got.Because, "; "), c.grade, c.says)
		}
	}
}

// What is worse about the evidence never makes the word stronger.
func TestNothingAgainstEvidenceMakesItStronger(t *testing.T) {
	worse := []func(*Evidence){
		func(e *Evidence) { e.Audit = audit.WithCaveats }, func(e *Evidence) { e.Audit = audit.NotComparable }, func(e *Evidence) { e.Verdict = evidence.Likely },
		func(e *Evidence) { e.Verdict = evidence.NotShown }, func(e *Evidence) { e.CanShow = false }, func(e *Evidence) { e.Prints = 1 }, func(e *Evidence) { e.How = Judged },
		func(e *Evidence) { e.Known = false }, func(e *Evidence) { e.Knew = true }, func(e *Evidence) { e.OpenedEarly = true }, func(e *Evidence) { e.Reference = true },
	}
	for set := range 1 << len(worse) {
		e := best()
		for i, make := range worse {
			if set>>i&1 == 1 {
				make(&e)
			}
		}
		before := Rank(Grade(e).Grade)
		for i, make := range worse {
			if set>>i&1 == 1 {
				continue
			}
			after := e
			make(&after)
			if e.Audit == audit.NotComparable && after.Audit == audit.WithCaveats || e.Verdict == evidence.NotShown && after.Verdict == evidence.Likely {
				continue // that one is better, not worse
			}
			// A reference asks for no three prints, so of one print it says more than a print does: no worse then.
			if after.Reference && !e.Reference && e.Prints < fewestPrints {
				continue
			}
			if Rank(Grade(after).Grade) < before {
				t.Fatalf("%+v is %s and with one more thing against it %s", e, Grade(e).Grade, Grade(after).Grade)
			}
		}
	}
}

func TestASentenceSaysNoMoreThanItsGrade(t *testing.T) {
	share := contest.Measure{Label: "Failures, all", Kind: contest.Share, Sides: []contest.Estimate{
		{Value: quantity.Ptr(2. / 24), Events: quantity.Ptr(int64(2)), Prints: 6, Specimens: 24}, {Value: quantity.Ptr(8. / 24), Events: quantity.Ptr(int64(8)), Prints: 6, Specimens: 24}}}
	pair := contest.Pair{A: 0, B: 1, Difference: quantity.Ptr(-0.25), CI: &quantity.Interval{-0.45, -0.03}, P: quantity.Ptr(0.002), PAdjusted: quantity.Ptr(0.03), PrintsNeeded: quantity.Ptr(int64(11))}
	names := []string{"Reed 4", "Sedge 6"}
	counted := contest.Counted{Table: 14}
	figures := "2 of 24 specimens over 6 prints against 8 of 24 specimens over 6 prints"
	for grade, want := range map[string]string{
		Showed:     "Failures, all: these prints showed it to be rarer on Reed 4 than on Sedge 6 (" + figures + "; difference -25 points (-45 to -3)); p = 0.03 among 14 in this table.",
		Suggests:   "Failures, all: these prints suggest that it is rarer on Reed 4 than on Sedge 6 (" + figures + "; difference -25 points (-45 to -3)); p = 0.03 among 14 in this table.",
		CannotTell: "Failures, all: it cannot be told whether Reed 4 and Sedge 6 differ (" + figures + "); p = 0.03 among 14 in this table; about 11 prints a side would show one that matters.",
		NotTested:  "Failures, all: not tested on Sedge 6. Reed 4 against Sedge 6: 2 of 24 specimens over 6 prints against not known.",
	} {
		m := share
		if grade == NotTested {
			m.Sides = []contest.Estimate{share.Sides[0], {}}
		}
		if got := Sentence(Graded{Grade: grade}, m, pair, names, counted); strings.ReplaceAll(got, "−", "-") != want {
			t.Errorf("%s:\n%s\nnot\n%s", grade, got, want)
		}
	}
	matched := pair
	matched.Kinds = 3
	for grade, want := range map[string]string{CannotTell: "differ, by −25 points (−45 to −3) over 3 kinds that both have; p", Showed: "rarer on Reed 4 than on Sedge 6, by −25 points (−45 to −3) over 3 kinds that both have; p"} {
		if got := Sentence(Graded{Grade: grade}, share, matched, names, counted); !strings.Contains(got, want) {
			t.Error(got)
		}
	}
	longer := contest.Measure{Label: "Time of a plate", Kind: contest.Time, Sides: []contest.Estimate{{Value: quantity.Ptr(7200.0), Prints: 4}, {Value: quantity.Ptr(3600.0), Prints: 4}}}
	if got := Sentence(Graded{Grade: Showed}, longer, contest.Pair{Difference: quantity.Ptr(2.0), B: 1}, names, counted); !strings.Contains(got, "longer on Reed 4 than on Sedge 6") {
		t.Error(got)
	}
	for _, c := range []struct {
		a, b float64
		want string
	}{{-0.06, -0.02, "further from nominal on Reed 4"}, {0.02, 0.06, "nearer to nominal on Reed 4"}, {0.02, -0.06, "larger on Reed 4"}, {-0.02, 0.06, "smaller on Reed 4"}} {
		m := contest.Measure{Label: "Width", Kind: contest.Length, Signed: true, Sides: []contest.Estimate{{Value: &c.a, Prints: 4}, {Value: &c.b, Prints: 4}}}
		if got := Sentence(Graded{Grade: Showed}, m, contest.Pair{Difference: quantity.Ptr(c.a - c.b), B: 1}, names, counted); !strings.Contains(got, c.want) {
			t.Error(got)
		}
	}
	cost := contest.Measure{Label: "Cost", Kind: contest.Money, Sides: []contest.Estimate{{Value: quantity.Ptr(1.0), Prints: 4}, {Value: quantity.Ptr(2.0), Prints: 4}}}
	if got := Sentence(Graded{Grade: Suggests}, cost, contest.Pair{B: 1}, names, counted); !strings.Contains(got, "lower on Reed 4") {
		t.Error(got)
	}
}

func TestNamesAreNoLongerThanTheyNeedToBe(t *testing.T) {
	side := func(name, machine, resin, settings string) Side {
		return Side{name, machine, resin, settings, machine + " with " + resin + ", " + settings}
	}
	for name, c := range map[string]struct {
		sides []Side
		want  string
	}{
		"machines":            {[]Side{side("", "Reed 4", "Grey", "2 s"), side("", "Sedge 6", "Grey", "3 s")}, "Reed 4|Sedge 6"},
		"resins":              {[]Side{side("", "Reed 4", "Grey", "2 s"), side("", "Reed 4", "Blue", "2 s")}, "Grey|Blue"},
		"machine and resin":   {[]Side{side("", "Reed 4", "Grey", "U-1"), side("", "Reed 4", "Blue", "U-2"), side("", "Sedge 6", "Grey", "U-3")}, "Reed 4 with Grey|Reed 4 with Blue|Sedge 6 with Grey"},
		"settings":            {[]Side{side("", "Reed 4", "Grey", "2 s"), side("", "Reed 4", "Grey", "3 s")}, "2 s|3 s"},
		"nothing alone tells": {[]Side{side("", "Reed 4", "Grey", "2 s"), side("", "Reed 4", "Grey", "3 s"), side("", "Sedge 6", "Grey", "2 s")}, "Reed 4 with Grey, 2 s|Reed 4 with Grey, 3 s|Sedge 6 with Grey, 2 s"},
		"a name of its own":   {[]Side{side("before", "Reed 4", "Grey", "2 s"), side("", "Sedge 6", "Grey", "2 s")}, "before|Sedge 6"},
		"a reference":         {[]Side{side("", "Reed 4", "Grey", "2 s"), side("", "Sedge 6", "Grey", "2 s"), {Label: "Reference casting"}}, "Reed 4|Sedge 6|Reference casting"},
	} {
		if got := strings.Join(Names(c.sides), "|"); got != c.want {
			t.Errorf("%s: %s, not %s", name, got, c.want)
		}
	}
}

func TestAScopeBoundsWhatWasFound(t *testing.T) {
	b := Bounds{Machines: []string{"Reed 4", "Sedge 6", "Reed 4"}, Resins: []string{"Grey", "Grey"}, LayersUM: []float64{50, 50}, TempsC: []float64{22.5, 24}, Prints: 2, Piece: "Turret", Kind: "terrain", View: "in hand, raw"}
	if got, want := Scope(b), "one unit each of Reed 4 and Sedge 6; one resin, Grey; 50 µm layers; resin at 22.5 to 24 °C; Turret (terrain); in hand, raw"; got != want {
		t.Errorf("%s, not %s", got, want)
	}
	b = Bounds{Machines: []string{"Reed 4"}, Resins: []string{"Grey", "Blue"}, TempsC: []float64{24}, Prints: 5}
	if got, want := Scope(b), "one machine, Reed 4; 2 resins; resin at 24 °C as far as it was read (1 of 5 prints)"; got != want {
		t.Errorf("%s, not %s", got, want)
	}
	if got := Scope(Bounds{Prints: 3}); got != "temperature not read" {
		t.Error(got)
	}
}

func TestIntervalsApart(t *testing.T) {
	in := func(low, high float64) *quantity.Interval { return &quantity.Interval{low, high} }
	if !LieApart(in(1, 2), in(2.1, 3)) || !LieApart(in(2.1, 3), in(1, 2)) || LieApart(in(1, 2), in(2, 3)) || LieApart(nil, in(1, 2)) {
		t.Error("only intervals without a common value lie apart")
	}
}
