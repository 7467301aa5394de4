package prose

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"

	"ojime/internal/say"
)

// unit is how a unit is written, what it is measured in, and how much of that it is.
type unit struct {
	of  string
	per float64
}

var unitNames = map[string]unit{
	"%": {"share", 0.01}, "per cent": {"share", 0.01}, "percent": {"share", 0.01}, "times": {"times", 1}, "points": {"share", 0.01},
	"µm": {"length", 1e-3}, "μm": {"length", 1e-3}, "um": {"length", 1e-3}, "microns": {"length", 1e-3}, "micron": {"length", 1e-3}, "mm": {"length", 1}, "cm": {"length", 10},
	"s": {"time", 1}, "seconds": {"time", 1}, "second": {"time", 1}, "min": {"time", 60}, "minutes": {"time", 60}, "minute": {"time", 60}, "h": {"time", 3600}, "hours": {"time", 3600}, "hour": {"time", 3600},
	"€": {"money", 1}, "$": {"money", 1}, "£": {"money", 1}, "euros": {"money", 1}, "°c": {"temperature", 1}, "degrees": {"temperature", 1}, "ml": {"volume", 1}, "g": {"mass", 1},
}

const unitPattern = `(%|per ?cent|times|points|µm|μm|um|microns?|mm|cm|seconds?|minutes?|min|hours?|h|s|€|\$|£|euros|°c|degrees|ml|g)`

var (
	lasting  = regexp.MustCompile(`\b(\d+)\s*h(?:ours?)?\s+(\d+)\s*min(?:utes)?\b`)
	quantity = regexp.MustCompile(`(\d+(?:[ ,]\d{3})*(?:\.\d+)?|\d+,\d+)\s*` + unitPattern + `(?:\b|[^\w]|$)`)
	ofMany   = regexp.MustCompile(`\b(\d+) (?:of|out of) (?:the )?(\d+)\b`)
	several  = regexp.MustCompile(`\b(twice|double|doubles|half as|three times|triple|triples|ten times|a third|a quarter|two thirds|half the)\b`)
	roughly  = regexp.MustCompile(`\b(about|around|roughly|some|nearly|almost|close to|just (over|under)|a little (over|under))\s*$`)
	// asDrawn are numbers that belong to a design, a scale or a plan, which the record need not have measured.
	asDrawn = regexp.MustCompile(`\b(nominal|scale of|at a distance of|from a distance|away|would|per year|a year|a week)\b`)
)

// number is a number in a sentence in the terms of its unit, with how far off it may be by the way in which it is written.
type number struct {
	from, to int
	value    float64
	slack    float64
	of       string
}

// numbersIn are the numbers of a sentence that have a unit, and those of so many.
func numbersIn(s sentence) (out []number) {
	plain := s.plain
	for _, at := range lasting.FindAllStringSubmatchIndex(plain, -1) {
		h, _ := strconv.ParseFloat(plain[at[2]:at[3]], 64)
		m, _ := strconv.ParseFloat(plain[at[4]:at[5]], 64)
		out = append(out, number{at[0], at[1], 3600*h + 60*m, 60, "time"})
	}
	for _, n := range out {
		plain = blank(plain, [][]int{{n.from, n.to}})
	}
	for _, at := range quantity.FindAllStringSubmatchIndex(plain, -1) {
		if at[2] > 0 && (plain[at[2]-1] == '-' || plain[at[2]-1] == '.' || plain[at[2]-1] >= '0' && plain[at[2]-1] <= '9') {
			continue // a part of a code or a date
		}
		v, slack := parse(plain[at[2]:at[3]])
		u, known := unitNames[strings.ReplaceAll(plain[at[4]:at[5]], "percent", "per cent")]
		if !known {
			continue
		}
		if roughly.MatchString(plain[:at[2]]) {
			slack = math.Max(slack, v/10)
		}
		out = append(out, number{at[2], at[5], v * u.per, slack * u.per, u.of})
	}
	for _, at := range ofMany.FindAllStringSubmatchIndex(plain, -1) {
		for _, g := range [][2]int{{at[2], at[3]}, {at[4], at[5]}} {
			v, _ := strconv.ParseFloat(plain[g[0]:g[1]], 64)
			out = append(out, number{g[0], g[1], v, 0, ""})
		}
	}
	return out
}

// parse reads a number as it is written, and how much its last place leaves open.
func parse(text string) (value, slack float64) {
	text = strings.ReplaceAll(text, " ", "")
	if at := strings.IndexByte(text, ','); at >= 0 {
		if len(text)-at-1 == 3 {
			text = strings.ReplaceAll(text, ",", "")
		} else {
			text = strings.ReplaceAll(text, ",", ".")
		}
	}
	value, _ = strconv.ParseFloat(text, 64)
	places := 0
	if at := strings.IndexByte(text, '.'); at >= 0 {
		places = len(text) - at - 1
	}
	return value, 0.5 * math.Pow(10, -float64(places)) * (1 + 1e-9)
}

// numbers question those that match no figure of the record, and say which is near.
func numbers(s sentence, c Context) (out []Remark) {
	if s.has(asDrawn) {
		return nil
	}
	for _, n := range numbersIn(s) {
		var nearest *Figure
		near, matched := math.Inf(1), false
		for i, f := range c.Figures {
			v, of := f.inTerms()
			if of != n.of {
				continue
			}
			d := math.Abs(v - n.value)
			matched = matched || d <= n.slack && d <= loose*math.Abs(v)
			if d < near {
				near, nearest = d, &c.Figures[i]
			}
		}
		if matched || n.isRatio(c) {
			continue
		}
		r := Remark{From: n.from, To: n.to, Rule: Number, Why: "It matches no figure of the record."}
		if nearest != nil {
			r.Why += fmt.Sprintf(" The nearest is %s of %s.", nearest.Says(), nearest.Name)
			r.Offer = nearest.Says()
		}
		out = append(out, r)
	}
	for _, at := range several.FindAllStringIndex(s.plain, -1) {
		if s.named > 0 || s.has(comparative) {
			out = append(out, Remark{From: at[0], To: at[1], Rule: Number, Why: "A multiple is a figure: the record has none for it.", Offer: "both figures, with their units"})
		}
	}
	return out
}

// isRatio reports a number that one of the known ratios is, as times or as so much more.
func (n number) isRatio(c Context) bool {
	for _, r := range c.Ratios {
		if n.of == "times" && math.Abs(r.Value-n.value) <= math.Max(n.slack, sameRatio*r.Value) || n.of == "share" && math.Abs(r.Value-1-n.value) <= n.slack {
			return true
		}
	}
	return false
}

func (f Figure) inTerms() (float64, string) {
	u, known := unitNames[lower(f.Unit)]
	if !known {
		return f.Value, f.Unit
	}
	return f.Value * u.per, u.of
}

// Says is a figure in words.
func (f Figure) Says() string {
	if f.Unit == "" {
		return say.Figures(f.Value, 4)
	}
	return say.InUnit(say.Figures(f.Value, 4), f.Unit)
}

// loose is how far from a figure, as a share of it, a number may be that means it, however it is rounded: 0.1 mm is not 61 µm.
const loose = 0.1

// sameRatio is how far from a ratio, as a share of it, a number still means it.
const sameRatio = 0.03

// ofWhat are the words for quantities of a plate, the more special first.
var ofWhat = []struct {
	quantity, words string
	pattern         *regexp.Regexp
}{
	{"linear_resolution", "pixels along a millimetre", regexp.MustCompile(`\b(resolution|finer|sharper|along a line|pixel size|pitch)\b`)},
	{"density", "pixels in a square millimetre", regexp.MustCompile(`\b(pixel density|density)\b`)},
	{"pixel_count", "the pixel count", regexp.MustCompile(`\b(pixel count|more pixels|the pixels|as many pixels|number of pixels)\b`)},
	{"volume", "the build volume", regexp.MustCompile(`\b(build volume|volume)\b`)},
	{"plate_width", "the width of the plate", regexp.MustCompile(`\b(wider|width)\b`)},
	{"plate_area", "the area of the plate", regexp.MustCompile(`\b(plate|area|larger|bigger)\b`)},
}

// ratios question so many times, or so much more, of a quantity that has another ratio.
func ratios(s sentence, c Context) (out []Remark) {
	for _, n := range numbersIn(s) {
		ratio := n.value
		switch n.of {
		case "share":
			ratio = 1 + n.value
		case "times":
		default:
			continue
		}
		is := ""
		for _, r := range c.Ratios {
			if math.Abs(r.Value-ratio) <= sameRatio*r.Value {
				is = r.Quantity
				break
			}
		}
		if is == "" {
			continue
		}
		clause := clauseOf(s.plain, n.from, n.to)
		for _, q := range ofWhat {
			if !q.pattern.MatchString(clause) {
				continue
			}
			for _, r := range c.Ratios {
				if r.Quantity == q.quantity && math.Abs(r.Value-ratio) > sameRatio*r.Value {
					out = append(out, Remark{From: n.from, To: n.to, Rule: Ratio, Why: fmt.Sprintf("%s times is %s; %s is %s times.", say.Figure(ratio), wordsFor(is), q.words, say.Figure(r.Value)), Offer: say.Figure(r.Value) + " times"})
				}
			}
			break
		}
	}
	return out
}

func wordsFor(quantity string) string {
	for _, q := range ofWhat {
		if q.quantity == quantity {
			return q.words
		}
	}
	return quantity
}

// clauseOf is the part of a sentence about a number: between the commas and semicolons around it.
func clauseOf(s string, from, to int) string {
	start := strings.LastIndexAny(s[:from], ";:") + 1
	if at := strings.LastIndex(s[:from], ", "); at+1 > start {
		start = at + 1
	}
	end := len(s)
	if at := strings.IndexAny(s[to:], ";:"); at >= 0 {
		end = to + at
	}
	if at := strings.Index(s[to:], ", "); at >= 0 && to+at < end {
		end = to + at
	}
	if start >= end {
		return s
	}
	return s[start:end]
}

// cannotBe are units and sizes that nothing here can have.
var cannotBe = []struct {
	pattern    *regexp.Regexp
	why, offer string
	beyond     func(number) bool
	of         string
}{
	{regexp.MustCompile(`\blayers?\b|\blayer height\b`), "No resin printer lays such layers: they are some tens of µm.", "µm", func(n number) bool { return n.value > 0.5 || n.value < 0.004 }, "length"},
	{regexp.MustCompile(`\b(resin|room|bath|printed|temperature|degrees|°c|warm|cold)\b`), "No resin or room is so warm or so cold.", "", func(n number) bool { return n.value > 80 || n.value < -20 }, "temperature"},
	{regexp.MustCompile(`\b(failed|fail|failures|copies|specimens|prints|votes|judges|whole|of all)\b`), "A share is no more than all of them: 100 %.", "", func(n number) bool { return n.value > 1 }, "share"},
	{regexp.MustCompile(`\bexpos(ed|ure)\b`), "A layer is exposed for seconds.", "s", func(n number) bool { return n.value > 600 }, "time"},
	{regexp.MustCompile(`\b(posts?|pins?|gaps?|slots?|error|off by)\b`), "That is larger than the pieces are.", "µm", func(n number) bool { return n.value > 50 }, "length"},
}

func units(s sentence, _ Context) (out []Remark) {
	for _, n := range numbersIn(s) {
		for _, u := range cannotBe {
			if n.of == u.of && u.beyond(n) && u.pattern.MatchString(clauseOf(s.plain, n.from, n.to)) {
				out = append(out, Remark{From: n.from, To: n.to, Rule: Unit, Why: u.why, Offer: u.offer})
				break
			}
		}
	}
	return out
}
