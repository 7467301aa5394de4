package readers

import "testing"

func TestACostNamesWhatIsInIt(t *testing.T) {
	for _, c := range []struct {
		holds []string
		want  string
	}{
		{[]string{"resin"}, "In it: resin; without film, light, energy and labour."},
		{[]string{"resin", "film", "light source", "energy", "labour"}, "In it: resin, film, light, energy and labour."},
		{nil, "What is in it varies by piece."},
	} {
		if got := (reached{holds: c.holds}).made(); got != c.want {
			t.Errorf("%v: %q, want %q", c.holds, got, c.want)
		}
	}
	mean := meanOf([][]*reached{{{value: 1, holds: []string{"resin", "film"}}}, {{value: 3, holds: []string{"resin"}}}}, 0)
	if mean.value != 2 || mean.made() != "In it: resin; without film, light, energy and labour." {
		t.Errorf("%+v", mean)
	}
}
