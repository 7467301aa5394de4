package prose

import (
	"encoding/json"
	"os"
	"strings"
	"testing"
)

func load[T any](t testing.TB, name string) (out T) {
	t.Helper()
	data, err := os.ReadFile("testdata/" + name)
	if err != nil {
		t.Fatal(err)
	}
	if err := json.Unmarshal(data, &out); err != nil {
		t.Fatal(err)
	}
	return out
}

// Of sentences that say too much nine in ten are questioned, of honest ones at most one in twenty. The first half of each list was
// written before any rule, and no rule was made for it.
func TestOverclaimsAreFoundAndHonestSentencesLeftAlone(t *testing.T) {
	c := load[Context](t, "context.json")
	for _, half := range []string{"held", "tuned"} {
		over, honest := load[[]string](t, "overclaims_"+half+".json"), load[[]string](t, "honest_"+half+".json")
		if len(over) != 40 || len(honest) != 40 {
			t.Fatalf("%s: %d and %d sentences", half, len(over), len(honest))
		}
		found, questioned := 0, 0
		for _, s := range over {
			if len(Read(s, c)) > 0 {
				found++
			} else {
				t.Logf("%s: not found: %s", half, s)
			}
		}
		for _, s := range honest {
			if r := Read(s, c); len(r) > 0 {
				questioned++
				t.Logf("%s: questioned: %s: %+v", half, s, r[0])
			}
		}
		if found < 36 || questioned > 2 {
			t.Errorf("%s: %d of 40 overclaims are found, %d of 40 honest sentences are questioned", half, found, questioned)
		}
	}
}

// Each rule by sentences that it takes and such that it leaves, with the place and what is offered.
func TestWhatEachRuleQuestions(t *testing.T) {
	c := load[Context](t, "context.json")
	for _, s := range []struct{ text, rule, part, offer string }{
		{"It failed in 12 % of the copies.", Number, "12 %", "8.3 %"},
		{"It failed in 8.3 % of the copies.", "", "", ""},
		{"It failed in about 8 % of the copies.", "", "", ""},
		{"A plate took 1 h 57 min.", "", "", ""},
		{"A plate took 1 h 40 min.", Number, "1 h 40 min", "117 min"},
		{"That was in R-014 on 2026-11-03.", "", "", ""},
		{"It stands 30 cm away.", "", "", ""},
		{"{{R.Reed 4.failures}} of them failed, and never mind.", Absolute, "never", "in none, or in all, of the prints here"},
		{"{{R.x}} of them failed.", Number, "{{R.x}}", "a name from the list of live figures"},
		{"It has 1.55 times the resolution.", Ratio, "1.55 times", "1.14 times"},
		{"It has 1.55 times the pixel count.", "", "", ""},
		{"Resin at 120 °C flows.", Unit, "120 °c", ""},
		{"Layers of 50 µm.", "", "", ""},
		{"That is not always so.", "", "", ""},
		{"The Reed 4 is quicker than the Sedge 6.", "", "", ""},
		{"It is quicker.", NoBase, "quicker", "quicker than …"},
		{"The failures came because of the film.", Cause, "because of", "may come of, or: came with"},
		{"The failures may have come because of the film.", "", "", ""},
		{"The Reed 4 is more accurate than the Sedge 6.", Strength, "more accurate", ""},
		{"Its noise is low.", Unmeasured, "noise", "say that it was not tested, or who says so"},
		{"Its noise was not measured.", "", "", ""},
		{"The Larch Mini is dearer than both.", Name, "Larch Mini", "name what it rests on, or leave it out"},
		{"See Table 3 of November 2026.", "", "", ""},
	} {
		got := Read(s.text, c)
		if s.rule == "" {
			if len(got) > 0 {
				t.Errorf("%s: %+v", s.text, got)
			}
			continue
		}
		if len(got) == 0 || got[0].Rule != s.rule || !strings.EqualFold(got[0].Text, s.part) || got[0].Offer != s.offer || got[0].Why == "" {
			t.Errorf("%s: %+v", s.text, got)
		}
	}
}

// Remarks stand in order, within the text, and name what they are about; two rules do not question the same number.
func FuzzRead(f *testing.F) {
	c := load[Context](f, "context.json")
	for _, name := range []string{"overclaims_held.json", "honest_tuned.json"} {
		for _, s := range load[[]string](f, name) {
			f.Add(s + " " + s)
		}
	}
	f.Add("İ 1,5 mm\n\n- nie {{a}} 12 % 99 µm")
	f.Fuzz(func(t *testing.T, text string) {
		last := 0
		for _, r := range Read(text, c) {
			if r.From < last || r.From > r.To || r.To > len(text) || r.Text != text[r.From:r.To] {
				t.Fatalf("%+v after %d of %q", r, last, text)
			}
			last = r.From
		}
	})
}

func BenchmarkRead(b *testing.B) {
	c := load[Context](b, "context.json")
	text := strings.Join(append(load[[]string](b, "overclaims_held.json"), load[[]string](b, "honest_held.json")...), " ")
	for b.Loop() {
		Read(text, c)
	}
}
