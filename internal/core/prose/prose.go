// Package prose reads what a reviewer writes, over the shoulder: it questions numbers that are not the record's, words that
// say more than the evidence, and praise of what nobody measured. Its rules are a reader's, not a grammar: they find most
// overclaims and leave most honest sentences alone, on lists that are kept as test data.
package prose

import (
	"cmp"
	"regexp"
	"slices"
	"strings"
)

// Rules, by which a remark is questioned.
const (
	Number     = "number"     // matches no figure of the record
	Ratio      = "ratio"      // stands under the wrong quantity
	Unit       = "unit"       // cannot be
	Absolute   = "absolute"   // claims more than any number of prints shows
	NoBase     = "no_base"    // compares with nothing
	Cause      = "cause"      // names a cause where something else differed too
	Strength   = "strength"   // says more than the grade of its finding
	Unmeasured = "unmeasured" // praises or blames what was not measured
	Name       = "name"       // is not in the record
)

// Figure is a number of the record: its name as it is written in text, its value in Unit.
type Figure struct {
	Name  string  `json:"name"`
	Value float64 `json:"value"`
	Unit  string  `json:"unit"`
}

// KnownRatio is what one machine has over another of a quantity, by the names of claims/quantity.
type KnownRatio struct {
	Quantity string  `json:"quantity"`
	Value    float64 `json:"value"`
}

// Subject is what a finding is about, by the words that name it in text, with its grade and the sentence that the record
// gives.
type Subject struct {
	Words    []string `json:"words"`
	Grade    string   `json:"grade"`
	Sentence string   `json:"sentence"`
}

// Context is what a text is read against: the names on record, its figures and ratios, what was found and how surely, what
// differed beside what was under test, and what nobody measured, by the words that name it.
type Context struct {
	Names     []string     `json:"names"`
	Figures   []Figure     `json:"figures"`
	Ratios    []KnownRatio `json:"ratios"`
	Findings  []Subject    `json:"findings"`
	Confounds []string     `json:"confounds"`
	Untested  []string     `json:"untested"`
}

// Remark questions a part of a text, from byte From to To: by which rule, why, and what could stand there.
type Remark struct {
	From  int    `json:"from"`
	To    int    `json:"to"`
	Text  string `json:"text"`
	Rule  string `json:"rule" enum:"number,ratio,unit,absolute,no_base,cause,strength,unmeasured,name"`
	Why   string `json:"why"`
	Offer string `json:"offer"`
}

// Read questions a text, in its order. What stands in double braces is a live figure and is left alone.
func Read(text string, c Context) []Remark {
	out := []Remark{}
	for _, s := range sentences(text, c.Names) {
		for _, rule := range []func(sentence, Context) []Remark{lives, ratios, units, numbers, absolutes, noBase, causes, strengths, unmeasured, names} {
			for _, r := range rule(s, c) {
				r.From, r.To = r.From+s.at, r.To+s.at
				if r.Text = text[r.From:r.To]; !slices.ContainsFunc(out, func(o Remark) bool {
					return o.From < r.To && r.From < o.To && (o.Rule == r.Rule || o.Rule == Ratio && r.Rule == Number || o.Rule == Unit && r.Rule == Number)
				}) {
					out = append(out, r)
				}
			}
		}
	}
	slices.SortStableFunc(out, func(a, b Remark) int { return cmp.Compare(a.From, b.From) })
	return out
}

// sentence is one sentence: as it stands, and in lower case with names and live figures blanked out, both of the same length.
// named is how many different names of the record stand in it.
type sentence struct {
	at    int
	text  string
	plain string
	named int
}

// endOf ends a sentence: a mark before a space or the end. A point within a number ends none.
var endOf = regexp.MustCompile(`[.!?]["”')]*(\s+|$)|\n\s*\n|\n[-*#|]`)

var live = regexp.MustCompile(`\{\{[^}]*\}\}`)

func sentences(text string, known []string) (out []sentence) {
	cut := func(from, to int) {
		part := text[from:to]
		if strings.TrimSpace(part) == "" {
			return
		}
		s := sentence{at: from, text: part}
		plain := blank(part, live.FindAllStringIndex(part, -1))
		longest := slices.Clone(known)
		slices.SortFunc(longest, func(a, b string) int { return len(b) - len(a) })
		for _, name := range longest {
			if name == "" {
				continue
			}
			at := wordsOf(plain, name)
			if len(at) > 0 {
				s.named++
			}
			plain = blank(plain, at)
		}
		s.plain = lower(plain)
		out = append(out, s)
	}
	from := 0
	for _, at := range endOf.FindAllStringIndex(text, -1) {
		cut(from, at[1])
		from = at[1]
	}
	cut(from, len(text))
	return out
}

// lower is a text in lower case of the same length: letters that change their length stay.
func lower(s string) string {
	l := strings.ToLower(s)
	if len(l) == len(s) {
		return l
	}
	out := []byte(s)
	for i, b := range out {
		if b >= 'A' && b <= 'Z' {
			out[i] = b + 'a' - 'A'
		}
	}
	return string(out)
}

// blank puts dots, which are part of no word, in the place of parts of a text.
func blank(s string, parts [][]int) string {
	out := []byte(s)
	for _, p := range parts {
		for i := p[0]; i < p[1]; i++ {
			out[i] = '_'
		}
	}
	return string(out)
}

// wordsOf are the places where a word or phrase stands by itself, whatever its case.
func wordsOf(s, phrase string) (out [][]int) {
	s, phrase = lower(s), lower(phrase)
	for from := 0; phrase != ""; {
		at := strings.Index(s[from:], phrase)
		if at < 0 {
			break
		}
		at += from
		if from = at + len(phrase); (at == 0 || !inWord(s[at-1])) && (from == len(s) || !inWord(s[from])) {
			out = append(out, []int{at, from})
		}
	}
	return out
}

// inWord reports a byte that is part of a word or of a letter beyond ASCII.
func inWord(b byte) bool {
	return b == '_' || b >= '0' && b <= '9' || b >= 'a' && b <= 'z' || b >= 0x80
}

// has reports any of some patterns in a sentence.
func (s sentence) has(pattern *regexp.Regexp) bool { return pattern.MatchString(s.plain) }

// hedged are words by which a sentence says that it is not sure, or that something was not tested.
var hedged = regexp.MustCompile(`\b(may|might|could|perhaps|possibly|suggests?|seems?|seemed|likely|cannot be told|can't be told|not shown|whether|if|unclear|not know|did not|didn't|not tested|untested|not measured|could not|too few|nothing (here )?(to say|speaks|shows)|we do not know|no difference is)\b`)

// seen are words by which a sentence says that it is what an eye saw.
var seen = regexp.MustCompile(`\b(looked|looks|to (our|my|the) eyes?|as rated|rated|judged|judges|seemed|seems|appeared)\b`)
