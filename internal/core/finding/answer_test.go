package finding

import "testing"

func TestEachGradeAllowsSomethingElse(t *testing.T) {
	seen := map[string]bool{}
	for _, g := range Grades {
		if Means(g) == "" || seen[Means(g)] {
			t.Errorf("%s allows %q", g, Means(g))
		}
		seen[Means(g)] = true
	}
	if Means("sure") != "" {
		t.Error("a word that is no grade allows something")
	}
}

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
