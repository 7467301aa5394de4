package prose

import (
	"slices"
	"strings"
	"testing"

	"ojime/internal/core/finding"
)

func TestWhatNobodyMeasured(t *testing.T) {
	none := Untested(nil)
	for _, w := range []string{"noise", "smell", "tough", "durable", "software"} {
		if !slices.Contains(none, w) {
			t.Errorf("%s is measured by nothing", w)
		}
	}
	some := Untested([]string{"lived noise", "stress drop raw", "rating smell raw"})
	if slices.Contains(some, "quiet") || slices.Contains(some, "brittle") || slices.Contains(some, "smell") || !slices.Contains(some, "durable") || !slices.Contains(some, "paint") {
		t.Error(some)
	}
}

func TestSubjectsKeepTheirStrongestRow(t *testing.T) {
	var s []Subject
	s = Graded(s, "failures", finding.CannotTell, "a")
	s = Graded(s, "failures_machine", finding.Suggests, "b")
	s = Graded(s, "failures", finding.NotTested, "c")
	s = Graded(s, "rework", finding.Showed, "d")
	s = Graded(s, "size 12", finding.Looked, "e")
	if len(s) != 2 || s[0].Grade != finding.Suggests || s[0].Sentence != "b" || s[1].Words[0] != "error" {
		t.Errorf("%+v", s)
	}
}

func TestLiveFigures(t *testing.T) {
	figures := []Figure{{"A.failures", 8.3, "%"}, {"A.prints", 6, ""}}
	got, unknown := Live("Of {{A.prints}} prints {{ A.failures }} failed, {{B.x}} not. {{", figures, Figure.Says)
	if got != "Of 6 prints 8.3 % failed, [no such figure: B.x] not. {{" || strings.Join(unknown, ",") != "B.x" {
		t.Error(got, unknown)
	}
}
