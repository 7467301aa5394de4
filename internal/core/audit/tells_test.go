package audit

import (
	"slices"
	"testing"
)

// 50 µm against 50 µm tells of the machine, 50 against 30 on one machine of the layer, and
// across both of neither.
func TestWhichPairAnswersWhat(t *testing.T) {
	of := func(machine string, layer float64) Conditions {
		return Conditions{Machine: One(machine), LayerUM: One(layer)}
	}
	both := []string{"machine", "layer_um"}
	for want, got := range map[string]string{
		"B against A: machine alone differs, so the pair tells of it.":                                Tells(of("M", 50), of("N", 50), both, "B", "A"),
		"C against A: layer height alone differs, so the pair tells of it.":                           Tells(of("M", 50), of("M", 30), both, "C", "A"),
		"D against A: machine and layer height differ at once, so a difference may be any of theirs.": Tells(of("M", 50), of("N", 30), both, "D", "A"),
		"E against A: nothing that is under test differs.":                                            Tells(of("M", 50), of("M", 50), both, "E", "A"),
		"F against A: layer height is not known of both, so it cannot be said what the pair tells.":   Tells(of("M", 50), Conditions{Machine: One("N")}, both, "F", "A"),
		"": Tells(of("M", 50), of("N", 50), []string{"machine", "prints"}, "B", "A"),
	} {
		if got != want {
			t.Errorf("says %q, want %q", got, want)
		}
	}
}

func TestEachFactorIsToldByItsPairs(t *testing.T) {
	of := func(machine, resin string, layer float64) Conditions {
		return Conditions{Machine: One(machine), LayerUM: One(layer), Resin: One(resin)}
	}
	sides := []Conditions{of("M", "grey", 50), of("N", "grey", 50), of("M", "grey", 30), of("N", "blue", 30)}
	got := WhichPairs(sides, []string{"machine", "layer_um", "resin"}, []string{"A", "B", "C", "D"})
	want := []string{"Machine alone differs in B against A.", "Layer height alone differs in C against A.", "Resin differs alone in no pair: its effect is not told by two sides."}
	if !slices.Equal(got, want) {
		t.Errorf("says %q", got)
	}
	if one := WhichPairs(sides, []string{"machine"}, []string{"A", "B", "C", "D"}); len(one) != 0 {
		t.Errorf("one factor: %q", one)
	}
	unknown := []Conditions{of("M", "grey", 50), {Machine: One("M"), Resin: One("grey")}}
	if got := WhichPairs(unknown, []string{"machine", "layer_um"}, []string{"A", "B"}); got[1] != "Layer height differs alone in no pair: its effect is not told by two sides." {
		t.Errorf("what is not known tells: %q", got)
	}
}
