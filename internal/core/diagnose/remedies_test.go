package diagnose

import (
	"math/rand/v2"
	"strings"
	"testing"
)

func print(run, pieces, symptoms string, tried ...Attempt) JudgedPrint {
	return JudgedPrint{Run: run, Pieces: strings.Fields(pieces), Symptoms: strings.Fields(symptoms), Tried: tried}
}

func against(symptom, cause string) Attempt {
	return Attempt{ID: cause, Symptom: symptom, Cause: cause}
}

func TestAFaultIsToldByThePrintThatCanTell(t *testing.T) {
	for name, c := range map[string]struct {
		prints []JudgedPrint
		toldBy string
		back   bool
	}{
		"the same piece without it":         {[]JudgedPrint{print("1", "wyrm", "pits"), print("2", "wyrm", "")}, "2", false},
		"the same piece with it":            {[]JudgedPrint{print("1", "wyrm", "pits"), print("2", "wyrm", "pits")}, "2", true},
		"an easier piece says nothing":      {[]JudgedPrint{print("1", "wyrm", "pits"), print("2", "base", ""), print("3", "wyrm", "")}, "3", false},
		"another piece may show it again":   {[]JudgedPrint{print("1", "wyrm", "pits"), print("2", "base", "pits"), print("3", "wyrm", "")}, "2", true},
		"a mixed plate tells":               {[]JudgedPrint{print("1", "wyrm base", "pits"), print("2", "lantern base", "lines")}, "2", false},
		"nothing of the kind printed since": {[]JudgedPrint{print("1", "wyrm", "pits"), print("2", "base", "")}, "", false},
		"nothing printed since":             {[]JudgedPrint{print("1", "wyrm", "pits")}, "", false},
	} {
		got := Courses(c.prints)[0]
		if got.ToldBy != c.toldBy || got.Returned != c.back {
			t.Errorf("%s: told by %q, returned %t", name, got.ToldBy, got.Returned)
		}
	}
}

func TestRemediesCountOnlyWithAPrintAndAlone(t *testing.T) {
	prints := []JudgedPrint{
		print("1", "wyrm", "pits"),                                                    // by itself: back on 2
		print("2", "wyrm", "pits", against("pits", "level")),                          // away on 3
		print("3", "wyrm", "lines", against("pits", "level")),                         // against what it does not show
		print("4", "wyrm", "pits"),                                                    // by itself: away on 5
		print("5", "wyrm", "", against("lines", "film")),                              // no fault, nothing to remedy
		print("6", "wyrm", "pits", against("pits", "level"), against("pits", "film")), // together: back on 7
		print("7", "wyrm", "pits", against("pits", "level")),                          // away on 8
		print("8", "wyrm", ""),
		print("9", "base", "pits", against("pits", "level")), // waits
	}
	courses := Courses(prints)
	fared, err := Fare(courses)
	if err != nil {
		t.Fatal(err)
	}
	pits := fared[0]
	if pits.Symptom != "pits" || pits.ByItself.Of != 2 || pits.ByItself.Away != 1 || pits.Remedied.Of != 3 || pits.Remedied.Away != 2 || pits.Remedied.Waiting != 1 {
		t.Errorf("%+v", pits)
	}
	level := pits.Causes[0]
	if level.Title == "level" && TitleOf("level") != "level" || level.Of != 2 || level.Away != 2 || level.Waiting != 1 || level.Together != 1 {
		t.Errorf("level: %+v", level)
	}
	if film := pits.Causes[1]; film.Of != 0 || film.Together != 1 || film.Rate.Rate != nil {
		t.Errorf("film: %+v", film)
	}
	if want := "After a remedy it stayed away in 2 of 3, by itself in 1 of 2: so many cannot tell whether remedies help. One remedy has no print yet that tells."; pits.Says != want {
		t.Errorf("%q", pits.Says)
	}
	if got := Confirmed(courses); len(got) != 2 || got[0].CameBack || got[0].Cause != "level" {
		t.Errorf("confirmed %+v", got)
	}
	if judged, helped := Hits(courses); judged != 3 || helped != 2 {
		t.Errorf("%d of %d helped", helped, judged)
	}
}

func TestWhatRemediesDidIsSaidOnlyWhenShown(t *testing.T) {
	course := func(remedied, returned bool, n int) (out []Course) {
		for range n {
			c := Course{Symptom: "pits", ToldBy: "x", Returned: returned}
			if remedied {
				c.Tried = []Attempt{against("pits", "level")}
			}
			out = append(out, c)
		}
		return out
	}
	for want, courses := range map[string][]Course{
		"After a remedy it stayed away in 9 of 9, by itself in 0 of 9: remedies helped (clear).":                   append(course(true, false, 9), course(false, true, 9)...),
		"After a remedy it stayed away in 0 of 9, by itself in 9 of 9: remedies made it worse (clear).":            append(course(true, true, 9), course(false, false, 9)...),
		"After a remedy it stayed away in 4 of 4; how often it does so by itself is not known.":                    course(true, false, 4),
		"By itself it stayed away in 0 of 1; no remedy has been put to a print.":                                   course(false, true, 1),
		"No later print has told yet. 2 remedies have no print yet that tells.":                                    {{Symptom: "pits", Tried: []Attempt{against("pits", "level")}}, {Symptom: "pits", Tried: []Attempt{against("pits", "film")}}},
		"After a remedy it stayed away in 2 of 2, by itself in 1 of 2: so many cannot tell whether remedies help.": append(course(true, false, 2), append(course(false, true, 1), course(false, false, 1)...)...),
	} {
		fared, err := Fare(courses)
		if err != nil {
			t.Fatal(err)
		}
		if fared[0].Says != want {
			t.Errorf("%q", fared[0].Says)
		}
	}
}

func TestACourseInWords(t *testing.T) {
	one := []Attempt{against("pits", "level")}
	for want, c := range map[string]Course{
		"has no judged print since that tells: print the same piece again": {Tried: one},
		"stayed away on R-2": {Tried: one, ToldBy: "2"},
		"came back on R-2":   {Tried: one, ToldBy: "2", Returned: true},
		"stayed away on R-2; tried with something else, so neither can claim it": {Tried: append(one, against("pits", "film")), ToldBy: "2"},
	} {
		if got := c.Sentence("R-2"); got != want {
			t.Errorf("%q", got)
		}
	}
}

// With remedies that do nothing, faults that come and go by themselves are called helped in
// no more than the 5 of 100 cases that the test allows.
func TestRemediesThatDoNothingAreSeldomPraised(t *testing.T) {
	chance := rand.New(rand.NewPCG(7, 11))
	praised := 0
	const records = 400
	for range records {
		var prints []JudgedPrint
		for i := range 60 {
			p := JudgedPrint{Run: string(rune('a' + i)), Pieces: []string{"wyrm"}}
			if chance.Float64() < 0.4 {
				p.Symptoms = []string{"pits"}
				if chance.Float64() < 0.5 {
					p.Tried = []Attempt{against("pits", "level")}
				}
			}
			prints = append(prints, p)
		}
		fared, err := Fare(Courses(prints))
		if err != nil {
			t.Fatal(err)
		}
		if d := fared[0].Difference; d != nil && d.Verdict != "not_shown" {
			praised++
		}
	}
	if praised > records/20 {
		t.Errorf("praised or blamed in %d of %d", praised, records)
	}
}
