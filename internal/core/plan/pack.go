package plan

import (
	"fmt"
	"math"
	"slices"
	"sort"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// Plate is a plate in mm: MarginMM is kept free at the edges of what may be used of it, and
// SpacingMM between pieces. HeightMM is the tallest piece. Dead strips at its edges and spots
// bear nothing; without any, all of it may be used.
type Plate struct {
	WidthMM   float64 `json:"width_mm"`
	DepthMM   float64 `json:"depth_mm"`
	HeightMM  float64 `json:"height_mm"`
	MarginMM  float64 `json:"margin_mm"`
	SpacingMM float64 `json:"spacing_mm"`
	Dead      Strips  `json:"-"`
	Spots     []Spot  `json:"-"`
}

// Strips are how far from each edge of a plate nothing can be printed, in mm, 0 or more.
type Strips struct{ LeftMM, RightMM, FrontMM, BackMM float64 }

// Spot is a round place of a plate over which nothing is to lie, such as that of a dead pixel:
// its middle as Place counts, and its radius, in mm.
type Spot struct{ XMM, YMM, RadiusMM float64 }

// square is the outline around a spot.
func (s Spot) square() []Point {
	r := s.RadiusMM
	return []Point{{s.XMM - r, s.YMM - r}, {s.XMM + r, s.YMM - r}, {s.XMM + r, s.YMM + r}, {s.XMM - r, s.YMM + r}}
}

// room is what may be used of a plate within its dead strips and margin: least and most x and y.
func (p Plate) room() (least, most Point) {
	m := p.MarginMM
	return Point{m + p.Dead.LeftMM, m + p.Dead.FrontMM}, Point{p.WidthMM - m - p.Dead.RightMM, p.DepthMM - m - p.Dead.BackMM}
}

// over reports the first spot that an outline lies over, -1 for none.
func (p Plate) over(outline []Point) int {
	return slices.IndexFunc(p.Spots, func(s Spot) bool {
		square := s.square()
		return gap(outline, square) == 0 || overlap(outline, square)
	})
}

// Item is a piece to be laid: its footprint and its scale (1 is full size).
type Item struct {
	Footprint Footprint
	Scale     float64
}

// Check says what makes no sense about a plate.
func (p Plate) Check() error {
	var c quantity.Checks
	c.Above("width_mm", p.WidthMM)
	c.Above("depth_mm", p.DepthMM)
	c.Above("height_mm", p.HeightMM)
	c.NotBelow("margin_mm", p.MarginMM)
	c.NotBelow("spacing_mm", p.SpacingMM)
	if least, most := p.room(); c.Err() == nil && (least[0] >= most[0] || least[1] >= most[1]) {
		c.Fail("margin_mm", "of %s mm leaves nothing of the plate; make it smaller", say.Figures(p.MarginMM, 6))
	}
	return c.Err()
}

// Trouble is what is wrong with a piece where it lies: off_plate, too_tall, on_spot or
// too_near (Other is the index of the piece that it is too near to).
type Trouble struct {
	Item    int    `json:"item"`
	Other   *int   `json:"other"`
	Code    string `json:"code" enum:"off_plate,too_tall,on_spot,too_near"`
	Message string `json:"message"`
}

// slackMM forgives rounding in places that were typed or computed.
const slackMM = 1e-6

// Review lists what is wrong with pieces where they lie. Overlaps are passed
// over where they are allowed.
func Review(plate Plate, items []Item, places []Place, overlapAllowed bool) []Trouble {
	out := []Trouble{}
	outlines := make([][]Point, len(items))
	boxes := make([][2]Point, len(items))
	from, to := plate.room()
	for i, item := range items {
		outlines[i] = item.Footprint.On(places[i], item.Scale)
		least, most := boxOf(outlines[i])
		boxes[i] = [2]Point{least, most}
		if least[0] < from[0]-slackMM || least[1] < from[1]-slackMM || most[0] > to[0]+slackMM || most[1] > to[1]+slackMM {
			message := fmt.Sprintf("reaches over the margin of %s mm at the edge of the plate", say.Figures(plate.MarginMM, 6))
			if plate.Dead != (Strips{}) {
				message = fmt.Sprintf("reaches over the margin of %s mm at the edge of what is usable of the plate", say.Figures(plate.MarginMM, 6))
			}
			out = append(out, Trouble{Item: i, Code: "off_plate", Message: message})
		}
		if n := plate.over(outlines[i]); n >= 0 {
			s := plate.Spots[n]
			out = append(out, Trouble{Item: i, Code: "on_spot", Message: fmt.Sprintf("lies over the spot at %s, %s mm, where nothing is to be printed", say.Figures(s.XMM, 4), say.Figures(s.YMM, 4))})
		}
		if h := item.Footprint.HeightMM * item.Scale; h > plate.HeightMM+slackMM {
			out = append(out, Trouble{Item: i, Code: "too_tall", Message: fmt.Sprintf("is %s mm tall; the machine has %s mm", say.Figures(h, 4), say.Figures(plate.HeightMM, 4))})
		}
	}
	if overlapAllowed {
		return out
	}
	for i := range items {
		for j := i + 1; j < len(items); j++ {
			s := plate.SpacingMM - slackMM
			if boxes[i][0][0]-boxes[j][1][0] >= s || boxes[j][0][0]-boxes[i][1][0] >= s || boxes[i][0][1]-boxes[j][1][1] >= s || boxes[j][0][1]-boxes[i][1][1] >= s {
				continue
			}
			if g := gap(outlines[i], outlines[j]); g < s || g == 0 && overlap(outlines[i], outlines[j]) {
				other := j
				message := fmt.Sprintf("is %s mm from its neighbour; %s mm are to be kept", say.Figures(g, 2), say.Figures(plate.SpacingMM, 6))
				if g == 0 {
					message = "overlaps its neighbour"
				}
				out = append(out, Trouble{Item: i, Other: &other, Code: "too_near", Message: message})
			}
		}
	}
	return out
}

// Pack lays items on an empty plate and gives a place for each, nil for those
// that do not fit. Copies of one piece are laid in a grid or in staggered rows,
// whichever takes more; mixed ones by the largest free rectangle that a box
// fits best (Jylänki 2010), largest first. What is called full by this rule may
// still take another by hand.
func Pack(plate Plate, items []Item) ([]*Place, error) {
	if err := plate.Check(); err != nil {
		return nil, err
	}
	best := maxRects(plate, items)
	if alike(items) {
		if lattice := rows(plate, items); count(lattice) >= count(best) {
			best = lattice
		}
	}
	for i, item := range items {
		if item.Footprint.HeightMM*item.Scale > plate.HeightMM+slackMM {
			best[i] = nil
		}
	}
	return best, nil
}

// mostCopies bounds what a plate is counted up to.
const mostCopies = 500

// Capacity is how many copies of an item Pack lays on the plate, up to 500.
func Capacity(plate Plate, item Item) (int64, error) {
	items := make([]Item, mostCopies)
	for i := range items {
		items[i] = item
	}
	places, err := Pack(plate, items)
	return int64(count(places)), err
}

func count(places []*Place) (n int) {
	for _, p := range places {
		if p != nil {
			n++
		}
	}
	return n
}

func alike(items []Item) bool {
	for _, item := range items {
		if item.Scale != items[0].Scale || len(item.Footprint.Outline) != len(items[0].Footprint.Outline) {
			return false
		}
		for i, p := range item.Footprint.Outline {
			if p != items[0].Footprint.Outline[i] {
				return false
			}
		}
	}
	return len(items) > 0
}

// rect is free room: boxes are laid with the spacing added to their far sides.
type rect struct{ x, y, w, d float64 }

func maxRects(plate Plate, items []Item) []*Place {
	order := make([]int, len(items))
	for i := range order {
		order[i] = i
	}
	size := func(i int) float64 {
		w, d := items[i].Footprint.box(0, items[i].Scale)
		return max(w, d)*1e3 + min(w, d)
	}
	sort.SliceStable(order, func(a, b int) bool { return size(order[a]) > size(order[b]) })
	s := plate.SpacingMM
	from, to := plate.room()
	free := []rect{{from[0], from[1], to[0] - from[0] + s, to[1] - from[1] + s}}
	for _, spot := range plate.Spots {
		free = without(free, rect{spot.XMM - spot.RadiusMM - s, spot.YMM - spot.RadiusMM - s, 2 * (spot.RadiusMM + s), 2 * (spot.RadiusMM + s)})
	}
	out := make([]*Place, len(items))
	for _, i := range order {
		best, turn, at := math.Inf(1), 0.0, rect{}
		for _, turned := range []float64{0, 90} {
			w, d := items[i].Footprint.box(turned, items[i].Scale)
			w, d = w+s, d+s
			for _, f := range free {
				short := min(f.w-w, f.d-d)
				if f.w < w-slackMM || f.d < d-slackMM {
					continue
				}
				// Nearest to the front left first where two fit alike.
				if score := short*1e6 + f.y*1e3 + f.x; score < best-1e-9 {
					best, turn, at = score, turned, rect{f.x, f.y, w, d}
				}
			}
		}
		if math.IsInf(best, 1) {
			continue
		}
		out[i] = &Place{XMM: at.x + (at.w-s)/2, YMM: at.y + (at.d-s)/2, TurnDeg: turn}
		free = without(free, at)
	}
	return out
}

// without takes used room out of the free rectangles and drops those that lie
// within another.
func without(free []rect, used rect) []rect {
	var out []rect
	for _, f := range free {
		if used.x >= f.x+f.w-slackMM || used.x+used.w <= f.x+slackMM || used.y >= f.y+f.d-slackMM || used.y+used.d <= f.y+slackMM {
			out = append(out, f)
			continue
		}
		for _, r := range []rect{
			{f.x, f.y, used.x - f.x, f.d}, {used.x + used.w, f.y, f.x + f.w - used.x - used.w, f.d},
			{f.x, f.y, f.w, used.y - f.y}, {f.x, used.y + used.d, f.w, f.y + f.d - used.y - used.d},
		} {
			if r.w > slackMM && r.d > slackMM {
				out = append(out, r)
			}
		}
	}
	kept := out[:0:0]
	for i, a := range out {
		inside := false
		for j, b := range out {
			if i != j && a.x >= b.x-slackMM && a.y >= b.y-slackMM && a.x+a.w <= b.x+b.w+slackMM && a.y+a.d <= b.y+b.d+slackMM && (a != b || i > j) {
				inside = true
				break
			}
		}
		if !inside {
			kept = append(kept, a)
		}
	}
	return kept
}

// rows lays copies of one item in rows, all turned alike: in a grid, or each row
// shifted by half a copy against the one before where that takes more.
func rows(plate Plate, items []Item) []*Place {
	best := Grid(plate, items)
	for _, turn := range []float64{0, 90} {
		if laid := lattice(plate, items, turn, true); count(laid) > count(best) {
			best = laid
		}
	}
	return best
}

// Grid lays copies of one item in rows and columns, all turned alike, from the
// front left; nil where there is no room. It is how numbered coupons are laid:
// their order is plain to see.
func Grid(plate Plate, items []Item) []*Place {
	best := lattice(plate, items, 0, false)
	if turned := lattice(plate, items, 90, false); count(turned) > count(best) {
		best = turned
	}
	return best
}

func lattice(plate Plate, items []Item, turn float64, shifted bool) []*Place {
	f, scale, s := items[0].Footprint, items[0].Scale, plate.SpacingMM
	from, to := plate.room()
	w, d := f.box(turn, scale)
	rise, shift := d+s, 0.0
	if shifted {
		rise, shift = closest(f, scale, turn, w+s, d+s, s), (w+s)/2
	}
	out := make([]*Place, len(items))
	next := 0
	for row := 0; ; row++ {
		y := from[1] + d/2 + float64(row)*rise
		if y+d/2 > to[1]+slackMM {
			return out
		}
		for x := from[0] + w/2 + float64(row%2)*shift; x+w/2 <= to[0]+slackMM; x += w + s {
			if next == len(items) {
				return out
			}
			at := Place{XMM: x, YMM: y, TurnDeg: turn}
			if len(plate.Spots) > 0 && plate.over(f.On(at, scale)) >= 0 {
				continue
			}
			out[next] = &at
			next++
		}
	}
}

// closest is the least rise at which a copy half a pitch along keeps the
// spacing.
func closest(f Footprint, scale, turn, pitch, most, spacing float64) float64 {
	here := f.On(Place{TurnDeg: turn}, scale)
	low, high := 0.0, most
	for range 40 {
		rise := (low + high) / 2
		if gap(here, f.On(Place{XMM: pitch / 2, YMM: rise, TurnDeg: turn}, scale)) >= spacing+slackMM {
			high = rise
		} else {
			low = rise
		}
	}
	return high
}
