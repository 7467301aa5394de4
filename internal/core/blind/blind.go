// Package blind deals blind panels: which judge is shown which specimens, under which codes, on which
// side and in which order, so that what is seen cannot be told from what was dealt.
package blind

import (
	"fmt"
	"math/rand/v2"
	"slices"

	"ojime/internal/core/quantity"
)

// Kinds of panels.
const (
	Preference = "preference"  // which of two; no difference may be said
	OddOneOut  = "odd_one_out" // which of three is of another arm (triangle, ISO 4120)
	Ranking    = "ranking"     // one of each arm, from best to worst
	Matching   = "matching"    // of which arm is this one
)

// Arm is one of the things that are set against each other, with the specimens of it by their ids.
type Arm struct {
	Name  string   `json:"name"`
	Items []string `json:"items"`
}

// Input is a panel to be dealt: 2 to 12 arms of at least one specimen each, 1 to 200 judges. Repeats is
// how many of a judge's trials are shown again with their places turned, Same how many trials show two
// specimens of one arm, where nothing is to be told apart; both of a preference alone. Seed makes the
// deal repeatable.
type Input struct {
	Kind    string `json:"kind"`
	Arms    []Arm  `json:"arms"`
	Judges  int64  `json:"judges"`
	Repeats int64  `json:"repeats"`
	Same    int64  `json:"same"`
	Seed    int64  `json:"seed"`
}

// Shown is a specimen in a trial, from the left to the right.
type Shown struct {
	Item string `json:"item"`
	Code string `json:"code"`
	Arm  int    `json:"arm"`
}

// Trial is what a judge is shown at once. Pair are the arms of a preference or an odd one out, the lower
// first, both the same for a check of one arm; Odd is the place of the odd one; RepeatOf is the trial of
// the same ballot that it shows again. They are −1 where there is none.
type Trial struct {
	Pair     [2]int  `json:"pair"`
	Shown    []Shown `json:"shown"`
	Odd      int     `json:"odd"`
	RepeatOf int     `json:"repeat_of"`
}

// Coded is a specimen under its code: the key, which stays sealed until the panel closes.
type Coded struct {
	Code string `json:"code"`
	Item string `json:"item"`
	Arm  int    `json:"arm"`
}

// Deal is a dealt panel: the key in the order of its codes, and for each judge the trials in the order in
// which they are shown.
type Deal struct {
	Key     []Coded   `json:"key"`
	Ballots [][]Trial `json:"ballots"`
}

// Bounds of a panel.
const (
	mostArms   = 12
	mostJudges = 200
	mostItems  = 200
)

// Check says what makes no sense about a panel.
func (in Input) Check() error {
	var c quantity.Checks
	c.OneOf("kind", in.Kind, Preference, OddOneOut, Ranking, Matching)
	if len(in.Arms) < 2 || len(in.Arms) > mostArms {
		c.Fail("arms", "are %d; a panel sets 2 to %d against each other", len(in.Arms), mostArms)
	}
	if in.Judges < 1 || in.Judges > mostJudges {
		c.Fail("judges", "is %d; a panel has 1 to %d", in.Judges, mostJudges)
	}
	items, twice := map[string]bool{}, 0
	for i, arm := range in.Arms {
		if len(arm.Items) == 0 {
			c.Fail(fmt.Sprintf("arms[%d].items", i), "is empty; name at least one specimen")
		}
		if len(arm.Items) >= 2 {
			twice++
		}
		for j, item := range arm.Items {
			if items[item] {
				c.Fail(fmt.Sprintf("arms[%d].items[%d]", i, j), "is %.40q, which stands in the panel already", item)
			}
			items[item] = true
		}
	}
	if len(items) > mostItems {
		c.Fail("arms", "hold %d specimens; a panel has up to %d", len(items), mostItems)
	}
	pairs := int64(len(in.Arms) * (len(in.Arms) - 1) / 2)
	switch {
	case in.Repeats < 0 || in.Same < 0:
		c.Fail("repeats", "and same are how many trials; write 0 or more")
	case in.Kind != Preference && in.Repeats+in.Same > 0:
		c.Fail("repeats", "and same are of a preference alone; leave them 0")
	case in.Repeats > pairs:
		c.Fail("repeats", "is %d; a judge is shown %d pairs, and each is repeated once at most", in.Repeats, pairs)
	case in.Same > 0 && twice == 0:
		c.Fail("same", "needs an arm of two specimens; add one, or leave it 0")
	case in.Same > pairs:
		c.Fail("same", "is %d; take no more checks than the %d pairs", in.Same, pairs)
	case in.Kind == OddOneOut && twice == 0:
		c.Fail("arms", "hold one specimen each; an odd one out needs two of one arm beside it")
	}
	return c.Err()
}

// New deals a panel. Places are balanced over judges: of a pair, either arm stands on the left as often as
// the other, or once more; of a ranking, each arm stands in each place equally often. Where a guess may be
// right, in an odd one out and a matching, the right answer is drawn for each trial on its own. The specimens of an arm take turns. Every judge is shown the trials
// in an order of their own; a repeat comes after another trial at least, where there is one, with its places
// turned.
func New(in Input) (Deal, error) {
	if err := in.Check(); err != nil {
		return Deal{}, err
	}
	d := dealer{in: in, chance: rand.New(rand.NewPCG(uint64(in.Seed), 0x6f6a696d65)), taken: make([]int, len(in.Arms)), code: map[string]string{}}
	out := Deal{Key: d.codes()}
	// Where an arm's turns begin is drawn, so that the first specimen named is not the first one shown.
	for a, arm := range in.Arms {
		d.taken[a] = d.chance.IntN(len(arm.Items))
	}
	deal := map[string]func() [][]Trial{Preference: d.preferences, OddOneOut: d.odd, Ranking: d.rankings, Matching: d.matchings}[in.Kind]
	out.Ballots = deal()
	return out, nil
}

// dealer deals one panel.
type dealer struct {
	in     Input
	chance *rand.Rand
	taken  []int // how many specimens of each arm were shown
	code   map[string]string
}

// letters of a code: none that is taken for another, and no vowel that makes a word.
const letters = "BCDFGHJKLMNPQRSTVWXZ"

// codes gives each specimen a code of two letters and a digit that says nothing of it, in the order of the codes.
func (d *dealer) codes() (key []Coded) {
	used := map[string]bool{}
	for a, arm := range d.in.Arms {
		for _, item := range arm.Items {
			code := ""
			for code == "" || used[code] {
				code = fmt.Sprintf("%c%c%d", letters[d.chance.IntN(len(letters))], letters[d.chance.IntN(len(letters))], 2+d.chance.IntN(8))
			}
			used[code], d.code[item] = true, code
			key = append(key, Coded{code, item, a})
		}
	}
	slices.SortFunc(key, func(a, b Coded) int {
		if a.Code < b.Code {
			return -1
		}
		return 1
	})
	return key
}

// next is the specimen of an arm whose turn it is.
func (d *dealer) next(arm int) Shown {
	items := d.in.Arms[arm].Items
	item := items[d.taken[arm]%len(items)]
	d.taken[arm]++
	return Shown{item, d.code[item], arm}
}

// pairs are all pairs of arms.
func (d *dealer) pairs() (out [][2]int) {
	for a := range d.in.Arms {
		for b := a + 1; b < len(d.in.Arms); b++ {
			out = append(out, [2]int{a, b})
		}
	}
	return out
}

// balanced draws an order of n turns over judges of so many ways, each as often as the others or once more.
func (d *dealer) balanced(n, ways int) []int {
	out := make([]int, n)
	for at := 0; at < n; at += ways {
		copy(out[at:], d.chance.Perm(ways))
	}
	d.chance.Shuffle(n, func(i, j int) { out[i], out[j] = out[j], out[i] })
	return out
}

func (d *dealer) preferences() [][]Trial {
	judges, pairs := int(d.in.Judges), d.pairs()
	left := make([][]int, len(pairs))
	for p := range pairs {
		left[p] = d.balanced(judges, 2)
	}
	var doubled []int // arms of two specimens at least
	for a, arm := range d.in.Arms {
		if len(arm.Items) >= 2 {
			doubled = append(doubled, a)
		}
	}
	out := make([][]Trial, judges)
	check := 0
	for j := range out {
		var trials []Trial
		for p, pair := range pairs {
			shown := []Shown{d.next(pair[0]), d.next(pair[1])}
			if left[p][j] == 1 {
				slices.Reverse(shown)
			}
			trials = append(trials, Trial{Pair: pair, Shown: shown, Odd: -1, RepeatOf: -1})
		}
		for range d.in.Same {
			arm := doubled[check%len(doubled)]
			check++
			trials = append(trials, Trial{Pair: [2]int{arm, arm}, Shown: []Shown{d.next(arm), d.next(arm)}, Odd: -1, RepeatOf: -1})
		}
		d.chance.Shuffle(len(trials), func(a, b int) { trials[a], trials[b] = trials[b], trials[a] })
		out[j] = d.repeated(trials)
	}
	return out
}

// repeated shows some of a ballot's pairs again, later and with their places turned: the last one only where
// all others are repeated too, so that none follows itself.
func (d *dealer) repeated(trials []Trial) []Trial {
	var pairs []int
	for i, t := range trials {
		if t.Pair[0] != t.Pair[1] {
			pairs = append(pairs, i)
		}
	}
	last := len(pairs) - 1
	d.chance.Shuffle(last, func(a, b int) { pairs[a], pairs[b] = pairs[b], pairs[a] })
	chosen := pairs[:d.in.Repeats]
	slices.Sort(chosen)
	for _, i := range chosen {
		again := trials[i]
		again.Shown, again.RepeatOf = slices.Clone(again.Shown), i
		slices.Reverse(again.Shown)
		trials = append(trials, again)
	}
	return trials
}

// odd deals triangles: of each pair, the arms that have two specimens are the double one equally often, and
// where the odd one lies is drawn for each trial on its own, so that guesses are right by chance alone.
func (d *dealer) odd() [][]Trial {
	out := make([][]Trial, d.in.Judges)
	for _, pair := range d.pairs() {
		var doubled []int // places in the pair
		for one, arm := range pair {
			if len(d.in.Arms[arm].Items) >= 2 {
				doubled = append(doubled, one)
			}
		}
		if len(doubled) == 0 {
			continue // neither arm has two
		}
		for j, way := range d.balanced(len(out), len(doubled)) {
			two, place := doubled[way], d.chance.IntN(3)
			shown := []Shown{d.next(pair[two]), d.next(pair[two])}
			out[j] = append(out[j], Trial{Pair: pair, Shown: slices.Insert(shown, place, d.next(pair[1-two])), Odd: place, RepeatOf: -1})
		}
	}
	for _, trials := range out {
		d.chance.Shuffle(len(trials), func(a, b int) { trials[a], trials[b] = trials[b], trials[a] })
	}
	return out
}

// rankings deals one of each arm, in the rows of a Latin square whose arms and rows are drawn.
func (d *dealer) rankings() [][]Trial {
	k := len(d.in.Arms)
	arms := d.chance.Perm(k)
	var out [][]Trial
	for _, row := range d.balanced(int(d.in.Judges), k) {
		trial := Trial{Pair: [2]int{-1, -1}, Odd: -1, RepeatOf: -1}
		for i := range k {
			trial.Shown = append(trial.Shown, d.next(arms[(row+i)%k]))
		}
		out = append(out, []Trial{trial})
	}
	return out
}

// matchings deals one specimen at a time, as many to each judge as there are arms; of which arm is drawn for each
// trial on its own, so that nobody can tell the last by what came before.
func (d *dealer) matchings() [][]Trial {
	out := make([][]Trial, d.in.Judges)
	for j := range out {
		for range d.in.Arms {
			shown := d.next(d.chance.IntN(len(d.in.Arms)))
			out[j] = append(out[j], Trial{Pair: [2]int{-1, -1}, Shown: []Shown{shown}, Odd: -1, RepeatOf: -1})
		}
	}
	return out
}
