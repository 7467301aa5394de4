package plan

import (
	"cmp"
	"math/rand/v2"
	"slices"

	"ojime/internal/core/quantity"
)

// DrawSide is one combination of an experiment: the machine and the resin that it is
// printed with, in words that tell them apart, and how many prints of it are wanted
// (0 for one that has enough).
type DrawSide struct {
	Machine string `json:"machine"`
	Resin   string `json:"resin"`
	Prints  int64  `json:"prints"`
}

// DrawInput is what is to be printed in a drawn order. Seed makes the draw repeatable;
// InVat is the resin that stands in the vat of a machine now.
type DrawInput struct {
	Sides []DrawSide        `json:"sides"`
	Seed  int64             `json:"seed"`
	InVat map[string]string `json:"in_vat"`
}

// DrawnPrint is one print of the order: its side by index, which print of its machine it
// is (from 1), whether the plate lies mirrored, and whether the resin in the vat is
// changed before it.
type DrawnPrint struct {
	Side      int    `json:"side"`
	Machine   string `json:"machine"`
	Turn      int64  `json:"turn"`
	Mirrored  bool   `json:"mirrored"`
	VatChange bool   `json:"vat_change"`
}

// DrawResult is the order, machine by machine. VatChanges counts the changes of resin;
// LeastVatChanges those of printing each resin in one go, where time would go with the
// resin. FirstOnly are pairs of sides of one machine of which every print of the first
// comes before every print of the second.
type DrawResult struct {
	Prints          []DrawnPrint `json:"prints"`
	VatChanges      int64        `json:"vat_changes"`
	LeastVatChanges int64        `json:"least_vat_changes"`
	FirstOnly       [][2]int     `json:"first_only"`
}

// mostDrawn bounds an order, draws how often it is drawn anew to keep sides apart.
const (
	mostDrawn = 500
	draws     = 200
)

// Draw lays prints in an order that leaves no side to one time. On a machine all sides of
// a resin are printed once a round, in an order that is drawn, every second round
// backwards, so that what drifts falls on all alike (a counterbalanced randomised block).
// A change of resin costs a clean vat: each resin is printed in two visits, the second
// time in the opposite order, which takes twice as many changes as one go each and no
// more. Every second plate of a side lies mirrored; sides begin in turn as they are and
// mirrored, machines in opposite turns, so that places go with no side.
func Draw(in DrawInput) (DrawResult, error) {
	var c quantity.Checks
	var all int64
	for _, s := range in.Sides {
		if s.Prints < 0 {
			c.Fail("prints", "is %d; it must not be below 0", s.Prints)
		}
		all += max(0, s.Prints)
	}
	if all > mostDrawn {
		c.Fail("prints", "are %d in all; up to %d are planned at once", all, mostDrawn)
	}
	if c.Err() != nil {
		return DrawResult{}, c.Err()
	}
	d := drawing{sides: in.Sides, chance: rand.New(rand.NewPCG(uint64(in.Seed), 0))}
	out := DrawResult{Prints: []DrawnPrint{}, FirstOnly: [][2]int{}}
	begins := d.chance.IntN(2)
	for at, machine := range d.machines() {
		order := d.best(machine, in.InVat[machine])
		out.FirstOnly = append(out.FirstOnly, d.firstOnly(order)...)
		out.LeastVatChanges += d.leastChanges(order, in.InVat[machine])
		inVat, lies := in.InVat[machine], map[int]int{} // how a side lies next: mirrored where it is odd
		for i, side := range order {
			resin := d.sides[side].Resin
			if _, seen := lies[side]; !seen {
				lies[side] = len(lies) + at + begins
			}
			p := DrawnPrint{Side: side, Machine: machine, Turn: int64(i + 1), Mirrored: lies[side]%2 == 1, VatChange: inVat != "" && inVat != resin}
			if p.VatChange {
				out.VatChanges++
			}
			lies[side]++
			inVat = resin
			out.Prints = append(out.Prints, p)
		}
	}
	return out, nil
}

// drawing is an order while it is drawn.
type drawing struct {
	sides  []DrawSide
	chance *rand.Rand
}

func (d drawing) machines() (out []string) {
	for _, s := range d.sides {
		if s.Prints > 0 && !slices.Contains(out, s.Machine) {
			out = append(out, s.Machine)
		}
	}
	return out
}

// best draws the order of a machine until as few sides as can be are wholly before
// another.
func (d drawing) best(machine, inVat string) (order []int) {
	least := -1
	for range draws {
		drawn := d.order(machine, inVat)
		if n := len(d.firstOnly(drawn)); least < 0 || n < least {
			order, least = drawn, n
		}
		if least == 0 {
			break
		}
	}
	return order
}

// order draws the prints of one machine once.
func (d drawing) order(machine, inVat string) (out []int) {
	of, resins, most := map[string][]int{}, []string{}, map[string]int64{}
	for i, s := range d.sides {
		if s.Machine != machine || s.Prints == 0 {
			continue
		}
		if of[s.Resin] == nil {
			resins = append(resins, s.Resin)
		}
		of[s.Resin] = append(of[s.Resin], i)
		most[s.Resin] = max(most[s.Resin], s.Prints)
	}
	d.chance.Shuffle(len(resins), func(i, j int) { resins[i], resins[j] = resins[j], resins[i] })
	// A resin of one print has one visit: it stands in the middle. What is in the vat
	// comes first where it comes twice.
	rank := func(resin string) int {
		switch {
		case most[resin] < 2:
			return 2
		case resin == inVat:
			return 0
		}
		return 1
	}
	slices.SortStableFunc(resins, func(a, b string) int { return cmp.Compare(rank(a), rank(b)) })
	left := make([]int64, len(d.sides))
	for i, s := range d.sides {
		left[i] = s.Prints
	}
	if len(resins) == 1 {
		return d.rounds(of[resins[0]], left)
	}
	for _, resin := range resins {
		visit := make([]int64, len(d.sides))
		for _, i := range of[resin] {
			visit[i] = (left[i] + 1) / 2
			left[i] -= visit[i]
		}
		out = append(out, d.rounds(of[resin], visit)...)
	}
	for _, resin := range slices.Backward(resins) {
		out = append(out, d.rounds(of[resin], left)...)
	}
	return out
}

// rounds prints each side once a round, every second round backwards. A side of fewer
// prints is spread over the rounds.
func (d drawing) rounds(sides []int, prints []int64) (out []int) {
	var rounds int64
	for _, i := range sides {
		rounds = max(rounds, prints[i])
	}
	at := make([][]int, rounds)
	for _, i := range sides {
		for k := range prints[i] {
			round := (2*k + 1) * rounds / (2 * prints[i])
			at[round] = append(at[round], i)
		}
	}
	var rank map[int]int
	for k, round := range at {
		if k%2 == 0 {
			rank = map[int]int{}
			for place, i := range d.chance.Perm(len(sides)) {
				rank[sides[i]] = place
			}
		}
		slices.SortFunc(round, func(a, b int) int {
			if k%2 == 0 {
				return cmp.Compare(rank[a], rank[b])
			}
			return cmp.Compare(rank[b], rank[a])
		})
		out = append(out, round...)
	}
	return out
}

// firstOnly lists pairs of sides of which all prints of the first come before all of the
// second, where either has two prints or more.
func (d drawing) firstOnly(order []int) (out [][2]int) {
	first, last := map[int]int{}, map[int]int{}
	for i, side := range order {
		if _, seen := first[side]; !seen {
			first[side] = i
		}
		last[side] = i
	}
	for a := range d.sides {
		for b := range d.sides {
			_, hasA := first[a]
			_, hasB := first[b]
			if a != b && hasA && hasB && last[a] < first[b] && max(d.sides[a].Prints, d.sides[b].Prints) > 1 {
				out = append(out, [2]int{a, b})
			}
		}
	}
	return out
}

// leastChanges is how often the resin is changed where each is printed in one go.
func (d drawing) leastChanges(order []int, inVat string) int64 {
	resins := map[string]bool{}
	for _, i := range order {
		resins[d.sides[i].Resin] = true
	}
	n := int64(len(resins))
	if inVat == "" || resins[inVat] {
		n--
	}
	return max(0, n)
}
