package diagnose

import (
	"cmp"
	"fmt"
	"slices"

	"ojime/internal/core/evidence"
)

// JudgedPrint is a judged print of one machine: when it began (UTC ms), the pieces it held,
// the symptoms it showed as printed so, each once, and what was tried against them.
type JudgedPrint struct {
	Run      string
	AtMS     int64
	Pieces   []string
	Symptoms []string
	Tried    []Attempt
}

// Attempt is a remedy tried against a symptom for a cause.
type Attempt struct {
	ID      string
	Symptom string
	Cause   string
}

// Course is how a fault of one print went on. ToldBy is the print that tells, empty while
// there is none: the next one of the machine that shows the symptom again, whatever it
// held, or holds one of the same pieces without it. Returned says that it came back.
type Course struct {
	Run      string
	Symptom  string
	Tried    []Attempt
	ToldBy   string
	Returned bool
}

// Alone says that one cause was gone after and no other: of several remedies at once none
// can claim what came of them.
func (c Course) Alone() bool {
	for _, a := range c.Tried {
		if a.Cause != c.Tried[0].Cause {
			return false
		}
	}
	return len(c.Tried) > 0
}

// Sentence says what came of what was tried; toldBy is the code of the print that told.
func (c Course) Sentence(toldBy string) string {
	if c.ToldBy == "" {
		return "has no judged print since that tells: print the same piece again"
	}
	said := map[bool]string{true: "came back on ", false: "stayed away on "}[c.Returned] + toldBy
	if len(c.Tried) > 0 && !c.Alone() {
		said += "; tried with something else, so neither can claim it"
	}
	return said
}

// Courses follows every fault of one machine's judged prints, which are in the order of
// time. What was tried against a symptom that counts no more on its print is left out.
func Courses(prints []JudgedPrint) []Course {
	out := []Course{}
	for i, p := range prints {
		for _, symptom := range p.Symptoms {
			c := Course{Run: p.Run, Symptom: symptom}
			for _, a := range p.Tried {
				if a.Symptom == symptom {
					c.Tried = append(c.Tried, a)
				}
			}
			for _, later := range prints[i+1:] {
				if c.Returned = slices.Contains(later.Symptoms, symptom); c.Returned || share(p.Pieces, later.Pieces) {
					c.ToldBy = later.Run
					break
				}
			}
			out = append(out, c)
		}
	}
	return out
}

func share(a, b []string) bool {
	return slices.ContainsFunc(a, func(s string) bool { return slices.Contains(b, s) })
}

// Fared is how faults of one symptom went on: without a remedy, after any, and after each
// that was tried alone. Difference sets the first two against each other; nil where either
// is empty.
type Fared struct {
	Symptom    string                   `json:"symptom"`
	ByItself   Stayed                   `json:"by_itself"`
	Remedied   Stayed                   `json:"remedied"`
	Causes     []CauseFared             `json:"causes"`
	Difference *evidence.TwoRatesResult `json:"difference" required:"false"`
	Says       string                   `json:"says"`
}

// Stayed is after how many of the faults that a print has told of the symptom stayed away;
// Waiting are those that no print has told of yet.
type Stayed struct {
	Away    int64               `json:"away"`
	Of      int64               `json:"of"`
	Waiting int64               `json:"waiting"`
	Rate    evidence.RateResult `json:"rate"`
}

func (s *Stayed) add(c Course) {
	switch {
	case c.ToldBy == "":
		s.Waiting++
	case c.Returned:
		s.Of++
	default:
		s.Of, s.Away = s.Of+1, s.Away+1
	}
}

func (s Stayed) count() evidence.Count { return evidence.Count{Events: s.Away, Trials: s.Of} }

// CauseFared is what was gone after alone, and how that fared. Together are the faults in
// which it was tried with something else, and which tell nothing of it.
type CauseFared struct {
	Cause string `json:"cause"`
	Title string `json:"title"`
	Stayed
	Together int64 `json:"together"`
}

// Fare counts courses by symptom, those with remedies first, then the commonest. The
// interval of a rate is Wilson's, the difference Fisher's exact test with Newcombe's
// interval, as in evidence/two-rates.
func Fare(courses []Course) ([]Fared, error) {
	out := []Fared{}
	for _, c := range courses {
		at := slices.IndexFunc(out, func(f Fared) bool { return f.Symptom == c.Symptom })
		if at < 0 {
			at, out = len(out), append(out, Fared{Symptom: c.Symptom, Causes: []CauseFared{}})
		}
		out[at].add(c)
	}
	for i := range out {
		if err := out[i].rates(); err != nil {
			return nil, err
		}
		out[i].Says = out[i].sentence()
	}
	slices.SortStableFunc(out, func(a, b Fared) int {
		return cmp.Or(cmp.Compare(b.Remedied.all(), a.Remedied.all()), cmp.Compare(b.ByItself.all(), a.ByItself.all()))
	})
	return out, nil
}

func (s Stayed) all() int64 { return s.Of + s.Waiting }

func (f *Fared) add(c Course) {
	if len(c.Tried) == 0 {
		f.ByItself.add(c)
		return
	}
	f.Remedied.add(c)
	seen := map[string]bool{}
	for _, a := range c.Tried {
		if seen[a.Cause] {
			continue
		}
		seen[a.Cause] = true
		at := slices.IndexFunc(f.Causes, func(o CauseFared) bool { return o.Cause == a.Cause })
		if at < 0 {
			at, f.Causes = len(f.Causes), append(f.Causes, CauseFared{Cause: a.Cause, Title: TitleOf(a.Cause)})
		}
		if c.Alone() {
			f.Causes[at].Stayed.add(c)
		} else {
			f.Causes[at].Together++
		}
	}
}

func (f *Fared) rates() (err error) {
	for _, s := range []*Stayed{&f.ByItself, &f.Remedied} {
		if s.Rate, err = evidence.Rate(s.count()); err != nil {
			return err
		}
	}
	for i := range f.Causes {
		if f.Causes[i].Rate, err = evidence.Rate(f.Causes[i].count()); err != nil {
			return err
		}
	}
	if f.ByItself.Of == 0 || f.Remedied.Of == 0 {
		return nil
	}
	two, err := evidence.TwoRates(evidence.TwoRatesInput{A: f.Remedied.count(), B: f.ByItself.count()})
	f.Difference = &two
	return err
}

// sentence says no more than the counts do.
func (f Fared) sentence() string {
	after := func(s Stayed) string { return fmt.Sprintf("in %d of %d", s.Away, s.Of) }
	waiting := ""
	if n := f.Remedied.Waiting; n > 0 {
		waiting = fmt.Sprintf(" %s no print yet that tells.", map[bool]string{true: "One remedy has", false: fmt.Sprintf("%d remedies have", n)}[n == 1])
	}
	switch {
	case f.Remedied.Of == 0 && f.ByItself.Of == 0:
		return "No later print has told yet." + waiting
	case f.Remedied.Of == 0:
		return "By itself it stayed away " + after(f.ByItself) + "; no remedy has been put to a print." + waiting
	case f.ByItself.Of == 0:
		return "After a remedy it stayed away " + after(f.Remedied) + "; how often it does so by itself is not known." + waiting
	}
	said := "After a remedy it stayed away " + after(f.Remedied) + ", by itself " + after(f.ByItself)
	switch d := f.Difference; {
	case d.Verdict == evidence.NotShown:
		said += ": so many cannot tell whether remedies help."
	case d.Difference > 0:
		said += ": remedies helped (" + d.Verdict + ")."
	default:
		said += ": remedies made it worse (" + d.Verdict + ")."
	}
	return said + waiting
}

// TitleOf is a cause in words: its title in the list of known ones, else as it was written.
func TitleOf(cause string) string {
	for _, k := range known {
		if k.cause == cause {
			return k.title
		}
	}
	return cause
}

// Confirmed are the remedies of a symptom that a print has told of and that were tried
// alone: what may speak for or against a cause.
func Confirmed(courses []Course) []Tried {
	out := []Tried{}
	for _, c := range courses {
		if c.ToldBy != "" && c.Alone() {
			out = append(out, Tried{Cause: c.Tried[0].Cause, CameBack: c.Returned})
		}
	}
	return out
}

// Hits counts, over all symptoms, the remedied faults that a print has told of and those
// after which the fault stayed away.
func Hits(courses []Course) (judged, helped int64) {
	for _, c := range courses {
		if len(c.Tried) > 0 && c.ToldBy != "" {
			if judged++; !c.Returned {
				helped++
			}
		}
	}
	return judged, helped
}
