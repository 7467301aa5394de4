package finding

import "testing"

func TestAnAnswerIsNoSurerThanItsFirstFinding(t *testing.T) {
	for _, c := range []struct {
		grades []string
		want   string
	}{
		{nil, "How sure: not graded, as no finding is picked to carry the answer."},
		{[]string{Showed}, "How sure: showed, the grade of the first finding, which carries the answer."},
		{[]string{Looked, Showed, CannotTell, Showed}, "How sure: looked, the grade of the first finding, which carries the answer; of the others 2 showed, 1 cannot tell."},
	} {
		if got := Answer(c.grades); got != c.want {
			t.Errorf("%v: %q, not %q", c.grades, got, c.want)
		}
	}
}
