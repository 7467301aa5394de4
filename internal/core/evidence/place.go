package evidence

import (
	"fmt"
	"math"
	"math/bits"
	"math/rand/v2"
	"sort"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// Spot is where a specimen stood, as shares of the plate's width and depth from
// its front left corner, and whether it failed.
type Spot struct {
	X      float64 `json:"x"`
	Y      float64 `json:"y"`
	Failed bool    `json:"failed"`
}

// PlaceInput is the specimens of each plate. Draws is how many times the failures
// are dealt anew (2000 where 0); Seed fixes how.
type PlaceInput struct {
	Plates [][]Spot `json:"plates"`
	Seed   uint64   `json:"seed"`
	Draws  int      `json:"draws"`
}

// Pattern is one way in which failures may not lie by chance: P is the share of
// deals at least as far from an even spread, PAll that for the three patterns
// asked at once (Holm 1979).
type Pattern struct {
	Pattern  string  `json:"pattern"`
	P        float64 `json:"p"`
	PAll     float64 `json:"p_all"`
	Verdict  string  `json:"verdict"`
	Where    string  `json:"where"`
	Sentence string  `json:"sentence"`
}

// PlaceCell is a part of the plate: its specimens and failures, and how many
// failures an even spread would put there.
type PlaceCell struct {
	Column   int64   `json:"column"`
	Row      int64   `json:"row"`
	Stood    int64   `json:"stood"`
	Failed   int64   `json:"failed"`
	Expected float64 `json:"expected"`
}

// PlaceResult is the plate in cells, row 0 at the front, and the three patterns:
// side (level, tilt), edge (light) and spot (panel, film).
type PlaceResult struct {
	Columns  int64       `json:"columns"`
	Rows     int64       `json:"rows"`
	Plates   int64       `json:"plates"`
	Stood    int64       `json:"stood"`
	Failed   int64       `json:"failed"`
	Cells    []PlaceCell `json:"cells"`
	Patterns []Pattern   `json:"patterns"`
	Draws    int64       `json:"draws"`
	quantity.Warnings
}

// The plate is told apart in this many parts, and below so many plates on which some failed
// and some held nothing is asked of them: with fewer no outcome could show a pattern once
// three are asked at once.
const (
	placeColumns, placeRows = 5, 4
	fewestPlates            = 7
	usualDraws              = 2000
)

// PlacePattern asks whether failures lean to a side, to centre or edge, or gather at one
// spot. The plate is the unit, since one part that lets go takes its neighbours with it:
// how far each plate's failures lie from the middle of what stood on it is turned about as a
// whole (a sign-flip test), and at a spot a plate counts once, against as many failures
// dealt anew among its own specimens. So a bad plate proves nothing about a place. It warns
// too_few below seven plates on which some failed and some held.
func PlacePattern(in PlaceInput) (PlaceResult, error) {
	var c quantity.Checks
	for i, plate := range in.Plates {
		for j, s := range plate {
			for _, v := range []float64{s.X, s.Y} {
				if !(v >= 0 && v <= 1) {
					c.Fail(fmt.Sprintf("plates[%d][%d].x", i, j), "is %s; a place is a share of the plate, 0 to 1", say.Figures(v, 6))
				}
			}
		}
	}
	if c.Err() != nil {
		return PlaceResult{}, c.Err()
	}
	d := deal(in.Plates)
	out := PlaceResult{Columns: placeColumns, Rows: placeRows, Plates: int64(len(in.Plates)), Cells: d.cells(in.Plates), Patterns: []Pattern{}, Warnings: quantity.None()}
	for _, cell := range out.Cells {
		out.Stood, out.Failed = out.Stood+cell.Stood, out.Failed+cell.Failed
	}
	if len(d.plates) < fewestPlates {
		out.Warn("too_few", "%s on which some copies failed and others held: too few to ask after a place; %d and more are needed.", say.Counted(int64(len(d.plates)), "plate"), fewestPlates)
		return out, nil
	}
	draws := in.Draws
	if draws <= 0 {
		draws = usualDraws
	}
	out.Draws = int64(draws)
	chance := rand.New(rand.NewPCG(in.Seed, uint64(len(d.plates))))
	out.Patterns = []Pattern{d.leans(chance, draws), d.keeps(chance, draws), d.gathers(chance, draws)}
	holm(out.Patterns)
	for i := range out.Patterns {
		out.Patterns[i].say()
	}
	return out, nil
}

// plateDeal is one plate on which some failed and some held: the cells of its spots, how
// many failed, the cells that these hit, and by how much they lie apart from the mean of all
// that stood there, added up.
type plateDeal struct {
	cellsOf []int
	failed  int
	hit     cellSet
	x, y, r float64
}

// cellSet is a set of cells of the plate, a bit each.
type cellSet uint32

// count adds one to each cell of the set.
func (s cellSet) count(cells *[placeColumns * placeRows]float64) {
	for ; s != 0; s &= s - 1 {
		cells[bits.TrailingZeros32(uint32(s))]++
	}
}

// draw hits the cells of as many spots as failed, each as likely, by a partial shuffle.
func (p plateDeal) draw(chance *rand.Rand) (hit cellSet) {
	for i := range p.failed {
		j := i + chance.IntN(len(p.cellsOf)-i)
		p.cellsOf[i], p.cellsOf[j] = p.cellsOf[j], p.cellsOf[i]
		hit |= 1 << p.cellsOf[i]
	}
	return hit
}

// dealing is all plates on which some failed and some held, with the failures that an even
// spread expects in each cell.
type dealing struct {
	plates   []plateDeal
	expected [placeColumns * placeRows]float64
}

func deal(plates [][]Spot) dealing {
	var d dealing
	for _, spots := range plates {
		p := plateDeal{}
		var x, y, r float64
		for _, s := range spots {
			p.cellsOf = append(p.cellsOf, cellOf(s))
			x, y, r = x+s.X, y+s.Y, r+radius(s)
			if s.Failed {
				p.failed, p.hit = p.failed+1, p.hit|1<<cellOf(s)
				p.x, p.y, p.r = p.x+s.X, p.y+s.Y, p.r+radius(s)
			}
		}
		if p.failed == 0 || p.failed == len(spots) {
			continue
		}
		share := float64(p.failed) / float64(len(spots))
		p.x, p.y, p.r = p.x-share*x, p.y-share*y, p.r-share*r
		d.plates = append(d.plates, p)
		for _, cell := range p.cellsOf {
			d.expected[cell] += share
		}
	}
	return d
}

// radius is 0 at the middle of the plate and 1 at any edge.
func radius(s Spot) float64 { return 2 * math.Max(math.Abs(s.X-0.5), math.Abs(s.Y-0.5)) }

func cellOf(s Spot) int {
	column := min(placeColumns-1, int(s.X*placeColumns))
	row := min(placeRows-1, int(s.Y*placeRows))
	return row*placeColumns + column
}

// turned is the share of ways to turn plates about, each by a sign of its own, whose
// statistic is at least the one seen: all ways where there are at most so many as draws.
func (d dealing) turned(chance *rand.Rand, draws int, statistic func(sign func(int) float64) float64) float64 {
	seen := statistic(func(int) float64 { return 1 })
	m := len(d.plates)
	if all := 1 << min(m, 30); all <= draws {
		further := 0
		for way := range all {
			if statistic(func(i int) float64 { return float64(1 - 2*(way>>i&1)) }) >= seen-1e-12 {
				further++
			}
		}
		return float64(further) / float64(all)
	}
	signs, further := make([]float64, m), 1
	for range draws {
		for i := range signs {
			signs[i] = float64(1 - 2*chance.IntN(2))
		}
		if statistic(func(i int) float64 { return signs[i] }) >= seen-1e-12 {
			further++
		}
	}
	return float64(further) / float64(1+draws)
}

// leans is the pattern of level and tilt.
func (d dealing) leans(chance *rand.Rand, draws int) Pattern {
	sum := func(sign func(int) float64) (x, y float64) {
		for i, p := range d.plates {
			x, y = x+sign(i)*p.x, y+sign(i)*p.y
		}
		return x, y
	}
	x, y := sum(func(int) float64 { return 1 })
	p := d.turned(chance, draws, func(sign func(int) float64) float64 { return math.Hypot(sum(sign)) })
	return Pattern{Pattern: "side", P: p, Where: sideOf(x, y)}
}

// keeps is the pattern of the evenness of light.
func (d dealing) keeps(chance *rand.Rand, draws int) Pattern {
	sum := func(sign func(int) float64) (r float64) {
		for i, p := range d.plates {
			r += sign(i) * p.r
		}
		return r
	}
	out := Pattern{Pattern: "edge", Where: "edge"}
	if sum(func(int) float64 { return 1 }) < 0 {
		out.Where = "centre"
	}
	out.P = d.turned(chance, draws, func(sign func(int) float64) float64 { return math.Abs(sum(sign)) })
	return out
}

// gathers is the pattern of panel and film: on how many plates something failed in a cell,
// in standard deviations from what dealing would put there, at its most.
func (d dealing) gathers(chance *rand.Rand, draws int) Pattern {
	var mean, variance [placeColumns * placeRows]float64
	for _, p := range d.plates {
		stood := map[int]int{}
		for _, cell := range p.cellsOf {
			stood[cell]++
		}
		for cell, k := range stood {
			hit := 1 - missing(len(p.cellsOf), k, p.failed)
			mean[cell], variance[cell] = mean[cell]+hit, variance[cell]+hit*(1-hit)
		}
	}
	most := func(hits *[placeColumns * placeRows]float64) (stat float64, at int) {
		stat, at = math.Inf(-1), 0
		for i := range hits {
			if variance[i] < 1e-12 {
				continue
			}
			if over := (hits[i] - mean[i]) / math.Sqrt(variance[i]); over > stat {
				stat, at = over, i
			}
		}
		return stat, at
	}
	var seen [placeColumns * placeRows]float64
	for _, p := range d.plates {
		p.hit.count(&seen)
	}
	stat, at := most(&seen)
	further := 1
	for range draws {
		var hits [placeColumns * placeRows]float64
		for _, p := range d.plates {
			p.draw(chance).count(&hits)
		}
		if s, _ := most(&hits); s >= stat-1e-12 {
			further++
		}
	}
	return Pattern{Pattern: "spot", P: float64(further) / float64(1+draws), Where: fmt.Sprintf("column %d from the left, row %d from the front", at%placeColumns+1, at/placeColumns+1)}
}

// missing is the chance that none of k among n specimens is among f that fail.
func missing(n, k, f int) float64 {
	if n-k < f {
		return 0
	}
	out := 1.0
	for i := range f {
		out *= float64(n-k-i) / float64(n-i)
	}
	return out
}

// cells counts every plate, also those on which all held or all failed.
func (d dealing) cells(plates [][]Spot) []PlaceCell {
	out := make([]PlaceCell, placeColumns*placeRows)
	for i := range out {
		out[i] = PlaceCell{Column: int64(i % placeColumns), Row: int64(i / placeColumns), Expected: d.expected[i]}
	}
	for _, plate := range plates {
		for _, s := range plate {
			cell := &out[cellOf(s)]
			cell.Stood++
			if s.Failed {
				cell.Failed++
			}
		}
	}
	return out
}

func sideOf(x, y float64) string {
	switch {
	case math.Abs(x) > 2*math.Abs(y) && x < 0:
		return "left"
	case math.Abs(x) > 2*math.Abs(y):
		return "right"
	case math.Abs(y) > 2*math.Abs(x) && y < 0:
		return "front"
	case math.Abs(y) > 2*math.Abs(x):
		return "back"
	}
	words := map[bool]string{true: "front", false: "back"}[y < 0]
	return words + map[bool]string{true: " left", false: " right"}[x < 0]
}

// holm corrects the p values of patterns that are asked at once.
func holm(patterns []Pattern) {
	order := []int{0, 1, 2}
	sort.SliceStable(order, func(i, j int) bool { return patterns[order[i]].P < patterns[order[j]].P })
	worst := 0.0
	for rank, i := range order {
		worst = math.Max(worst, math.Min(1, patterns[i].P*float64(len(order)-rank)))
		patterns[i].PAll = worst
		patterns[i].Verdict = VerdictOf(worst)
	}
}

func (p *Pattern) say() {
	sure := map[string]string{Clear: "clearly", Likely: "likely"}[p.Verdict]
	switch {
	case p.Verdict == NotShown:
		p.Sentence = fmt.Sprintf("%s: not shown (p = %s).", map[string]string{
			"side": "Failures lean to no side", "edge": "Failures keep neither to centre nor edge", "spot": "Failures gather at no one spot"}[p.Pattern], say.Figures(p.PAll, 2))
	case p.Pattern == "side":
		p.Sentence = fmt.Sprintf("Failures %s lean to the %s (p = %s): look at level and tilt.", sure, p.Where, say.Figures(p.PAll, 2))
	case p.Pattern == "edge":
		p.Sentence = fmt.Sprintf("Failures %s keep to the %s (p = %s): look at the evenness of the light.", sure, p.Where, say.Figures(p.PAll, 2))
	default:
		p.Sentence = fmt.Sprintf("Failures %s gather at one spot, %s (p = %s): look at panel and film there.", sure, p.Where, say.Figures(p.PAll, 2))
	}
}
