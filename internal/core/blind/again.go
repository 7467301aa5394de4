package blind

import (
	"slices"

	"ojime/internal/core/quantity"
)

// Codes are what the judges are shown and nothing else: by ballot and trial, the codes from the left to the
// right. They tell no arm without the key.
func (d Deal) Codes() [][][]string {
	out := make([][][]string, len(d.Ballots))
	for j, ballot := range d.Ballots {
		out[j] = make([][]string, len(ballot))
		for i, trial := range ballot {
			for _, s := range trial.Shown {
				out[j][i] = append(out[j][i], s.Code)
			}
		}
	}
	return out
}

// Again puts a deal of a kind together from its key and the codes that were shown, as Codes tells them: the
// arms of each pair, the place of the odd one, and which trial of a preference repeats which. A code that is
// not in the key is an error that names it.
func Again(kind string, key []Coded, codes [][][]string) (Deal, error) {
	var c quantity.Checks
	c.OneOf("kind", kind, Preference, OddOneOut, Ranking, Matching)
	behind := map[string]Coded{}
	for _, k := range key {
		behind[k.Code] = k
	}
	out := Deal{Key: key, Ballots: make([][]Trial, len(codes))}
	for j, ballot := range codes {
		for _, shown := range ballot {
			trial := Trial{Pair: [2]int{-1, -1}, Odd: -1, RepeatOf: -1}
			for _, code := range shown {
				k, known := behind[code]
				if !known {
					c.Fail("codes", "hold %.20q, which the key does not", code)
				}
				trial.Shown = append(trial.Shown, Shown{k.Item, code, k.Arm})
			}
			trial.placed(kind, out.Ballots[j])
			out.Ballots[j] = append(out.Ballots[j], trial)
		}
	}
	return out, c.Err()
}

// placed says of which arms a trial is, and what follows from it.
func (t *Trial) placed(kind string, before []Trial) {
	if kind != Preference && kind != OddOneOut || len(t.Shown) < 2 {
		return
	}
	least, most := t.Shown[0].Arm, t.Shown[0].Arm
	for _, s := range t.Shown {
		least, most = min(least, s.Arm), max(most, s.Arm)
	}
	t.Pair = [2]int{least, most}
	if kind == OddOneOut {
		t.Odd = slices.IndexFunc(t.Shown, func(s Shown) bool { return t.alone(s.Arm) })
		return
	}
	if least != most { // a pair of arms is shown once, and what is shown of it again repeats that
		t.RepeatOf = slices.IndexFunc(before, func(o Trial) bool { return o.Pair == t.Pair && o.RepeatOf < 0 })
	}
}

// alone reports an arm of which a trial shows one specimen.
func (t *Trial) alone(arm int) bool {
	n := 0
	for _, s := range t.Shown {
		if s.Arm == arm {
			n++
		}
	}
	return n == 1
}
