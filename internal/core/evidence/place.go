package evidence

import (
	"fmt"
	"math"
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

// The plate is told apart in this many parts, and below so many failures nothing
// is asked of them.
const (
	placeColumns, placeRows = 5, 4
	fewestFailures          = 6
	usualDraws              = 2000
)

// PlacePattern asks whether failures lean to a side, to centre or edge, or gather at
// one spot: a permutation test in which each plate's failures are dealt anew
// among its own specimens, so that a bad plate proves nothing about a place. It
// warns too_few below six failures.
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
	if d.failures < fewestFailures {
		out.Warn("too_few", "%d failures on plates where others held are too few to ask after a place; %d and more are needed.", d.failures, fewestFailures)
		return out, nil
	}
	draws := in.Draws
	if draws <= 0 {
		draws = usualDraws
	}
	out.Draws = int64(draws)
	seen := d.measure(func(p plateDeal) []int { return p.failed })
	chance := rand.New(rand.NewPCG(in.Seed, uint64(d.failures)))
	further := [3]int{}
	for range draws {
		m := d.measure(func(p plateDeal) []int { return p.draw(chance) })
		for k := range further {
			if m.stat[k] >= seen.stat[k]-1e-12 {
				further[k]++
			}
		}
	}
	for k, name := range []string{"side", "edge", "spot"} {
		out.Patterns = append(out.Patterns, Pattern{Pattern: name, P: float64(1+further[k]) / float64(1+draws), Where: seen.where[k]})
	}
	holm(out.Patterns)
	for i := range out.Patterns {
		out.Patterns[i].say()
	}
	return out, nil
}

// plateDeal is one plate whose failures can be dealt: its spots and which failed.
type plateDeal struct {
	spots  []Spot
	failed []int
	order  []int
}

// draw picks as many spots as failed, each as likely, by a partial shuffle.
func (p plateDeal) draw(chance *rand.Rand) []int {
	for i := range p.failed {
		j := i + chance.IntN(len(p.order)-i)
		p.order[i], p.order[j] = p.order[j], p.order[i]
	}
	return p.order[:len(p.failed)]
}

// dealing is all plates on which some failed and some held, with what an even
// spread expects.
type dealing struct {
	plates   []plateDeal
	failures int
	meanX    float64
	meanY    float64
	meanR    float64
	expected [placeColumns * placeRows]float64
}

func deal(plates [][]Spot) dealing {
	var d dealing
	for _, spots := range plates {
		p := plateDeal{spots: spots}
		for i, s := range spots {
			p.order = append(p.order, i)
			if s.Failed {
				p.failed = append(p.failed, i)
			}
		}
		if len(p.failed) == 0 || len(p.failed) == len(spots) {
			continue
		}
		d.plates, d.failures = append(d.plates, p), d.failures+len(p.failed)
		share := float64(len(p.failed)) / float64(len(spots))
		for _, s := range spots {
			d.meanX, d.meanY, d.meanR = d.meanX+share*s.X, d.meanY+share*s.Y, d.meanR+share*radius(s)
			d.expected[cellOf(s)] += share
		}
	}
	if n := float64(d.failures); n > 0 {
		d.meanX, d.meanY, d.meanR = d.meanX/n, d.meanY/n, d.meanR/n
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

// measured is how far a deal is from an even spread, by pattern, and where.
type measured struct {
	stat  [3]float64
	where [3]string
}

func (d dealing) measure(failed func(plateDeal) []int) measured {
	var x, y, r float64
	var counts [placeColumns * placeRows]float64
	for _, p := range d.plates {
		for _, i := range failed(p) {
			s := p.spots[i]
			x, y, r = x+s.X, y+s.Y, r+radius(s)
			counts[cellOf(s)]++
		}
	}
	n := float64(d.failures)
	x, y, r = x/n-d.meanX, y/n-d.meanY, r/n-d.meanR
	m := measured{stat: [3]float64{math.Hypot(x, y), math.Abs(r), 0}, where: [3]string{sideOf(x, y), "edge", ""}}
	if r < 0 {
		m.where[1] = "centre"
	}
	for i, expected := range d.expected {
		if expected == 0 {
			continue
		}
		if over := (counts[i] - expected) / math.Sqrt(expected); over > m.stat[2] {
			m.stat[2], m.where[2] = over, fmt.Sprintf("column %d from the left, row %d from the front", i%placeColumns+1, i/placeColumns+1)
		}
	}
	return m
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
