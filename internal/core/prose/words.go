package prose

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"ojime/internal/core/finding"
)

// tooMuch are words that no number of prints carries, with what could stand there.
var tooMuch = []struct {
	pattern    *regexp.Regexp
	why, offer string
}{
	{regexp.MustCompile(`\b(never|always|without exception|every single|every time|in all cases|at all times)\b`), "So many prints show what happened in them, and no more.", "in none, or in all, of the prints here"},
	{regexp.MustCompile(`\b(cannot fail|can't fail|will not fail|won't fail|fail-?proof|foolproof|risk-?free)\b`), "None in n is up to some share: say how many there were.", "none of the copies failed, which leaves up to … %"},
	{regexp.MustCompile(`\b(objectively|undoubtedly|unquestionably|undeniably|indisputably|definitely|certainly|obviously|conclusively|without (a|any) doubt|no doubt|beyond (any )?(question|doubt)|hands down|by far|no contest|period)\b`), "That is emphasis, not evidence.", "leave it out"},
	{regexp.MustCompile(`\b(prove|proves|proved|proven|proof)\b`), "Prints suggest or show; they prove nothing.", "suggest, or show, by the grade of the finding"},
	{regexp.MustCompile(`\b(guarantee|guarantees|guaranteed)\b`), "Nobody here can guarantee it.", "in the prints here"},
	{regexp.MustCompile(`\b(indistinguishable|identical in every way|no difference whatsoever|exactly the same|impossible to tell apart)\b`), "That no difference was shown is not that there is none.", "we could show no difference"},
	{regexp.MustCompile(`\b(everyone|everybody|anyone|anybody|no one|nobody (can|could|will|would)|all users|any user|for all readers)\b`), "You asked some people, and print some things.", "who was asked, and how many"},
	{regexp.MustCompile(`\b(flawless|flawlessly|perfect|perfectly|faultless|immaculate)\b`), "No checklist sees all.", "nothing on the checklist was missing"},
	{regexp.MustCompile(`\b(best|worst|finest|fastest|cheapest|sharpest|most (accurate|reliable)) (\w+ ){0,3}(on the market|ever|in its class|in the world|money can buy|there is|you can buy|available|of all)\b`), "The market was not here.", "of those compared here"},
	{regexp.MustCompile(`\b(outstanding|amazing|stunning|superb|unbeatable|unmatched|unrivalled|incredible|breathtaking|miles ahead|blows away|joy to use|second to none|game.?changer|phenomenal)\b`), "That is praise without a figure.", "what was measured, with its interval"},
}

func absolutes(s sentence, _ Context) (out []Remark) {
	for _, t := range tooMuch {
		for _, at := range t.pattern.FindAllStringIndex(s.plain, -1) {
			if denied(s.plain, at[0]) {
				continue
			}
			out = append(out, Remark{From: at[0], To: at[1], Rule: Absolute, Why: t.why, Offer: t.offer})
		}
	}
	return out
}

var denying = regexp.MustCompile(`\b(not|no|nor|nobody|hardly|isn't|aren't|doesn't|don't|without|rather than)( \w+)? $`)

// denied reports a word that a sentence takes back in the same breath: not always.
func denied(plain string, at int) bool { return denying.MatchString(plain[:at]) }

// comparative are words that compare.
var comparative = regexp.MustCompile(`\b(crisper|sharper|faster|quicker|slower|smoother|rougher|cheaper|dearer|finer|coarser|better|worse|stronger|weaker|quieter|louder|brighter|easier|harder|cleaner|straighter|rarer|tougher|fewer|superior|inferior|more (accurate|reliable|precise|detailed|robust|often|expensive|even|consistent|durable)|less (accurate|reliable|often|expensive|noisy|detailed|visible|prone|time|to run|resin|waste)|(costs?|takes|needs|uses|fails?) (less|more))\b`)

// based are words that say with what something is compared.
var based = regexp.MustCompile(`\b(than|against|compared|versus|vs|as (\w+ ){1,3}as|of the two|of both|the other|others|between|instead of|before|after the|by itself|since the|in comparison|either|neither|more prints)\b`)

func noBase(s sentence, _ Context) (out []Remark) {
	if s.has(based) || s.named > 1 || s.has(hedged) {
		return nil
	}
	if at := comparative.FindStringIndex(s.plain); at != nil {
		out = append(out, Remark{From: at[0], To: at[1], Rule: NoBase, Why: "It compares with nothing that is named.", Offer: s.text[at[0]:at[1]] + " than …"})
	}
	return out
}

// causal are words that name a cause.
var causal = regexp.MustCompile(`\b(because( of)?|due to|thanks to|owing to|caused( by)?|causes|the (reason|cause) (is|was|for|of)|led to|leads to|results? in|resulted in|is responsible for|is to blame|so the \w+ must|must (be|have been)|which is why|makes all the difference|stems from|comes (down to|from its))\b`)

func causes(s sentence, c Context) (out []Remark) {
	if len(c.Confounds) == 0 || s.has(hedged) {
		return nil
	}
	if at := causal.FindStringIndex(s.plain); at != nil && !denied(s.plain, at[0]) {
		out = append(out, Remark{From: at[0], To: at[1], Rule: Cause, Why: fmt.Sprintf("Something else differed, too: %s.", strings.Join(c.Confounds, ", ")), Offer: "may come of, or: came with"})
	}
	return out
}

// strong are words that a finding needs its best grade for.
var strong = regexp.MustCompile(`\b(clearly|definitely|significantly|considerably|much|far|vastly|markedly|noticeably|dramatically|consistently|shows|showed|shown|demonstrates?|demonstrated|confirms?|confirmed|establishes|wins|beats|outperforms|unreliable|outclasses|trounces)\b`)

// bare is a comparison that is said as a fact.
var bare = regexp.MustCompile(`\b(is|are|was|were|has|have|prints|came out|comes out|produces|holds|gives|delivers|fails?|failed|costs?|shows)\b`)

func strengths(s sentence, c Context) (out []Remark) {
	for _, f := range c.Findings {
		if f.Grade == finding.Showed {
			continue
		}
		at := -1
		for _, w := range f.Words {
			if found := wordsOf(s.plain, w); len(found) > 0 {
				at = found[0][0]
				break
			}
		}
		if at < 0 || s.has(hedged) || f.Grade == finding.Looked && s.has(seen) {
			continue
		}
		where := strong.FindStringIndex(s.plain)
		if where == nil || !s.has(comparative) && s.named == 0 {
			if where = comparative.FindStringIndex(s.plain); where == nil || !s.has(based) || !s.has(bare) {
				continue
			}
		}
		out = append(out, Remark{From: where[0], To: where[1], Rule: Strength, Why: fmt.Sprintf("The finding on it is graded “%s”: the sentence says more.", strings.ReplaceAll(f.Grade, "_", " ")), Offer: f.Sentence})
		break
	}
	return out
}

func unmeasured(s sentence, c Context) (out []Remark) {
	if s.has(hedged) || s.has(notTested) {
		return nil
	}
	for _, topic := range c.Untested {
		for _, at := range wordsOf(s.plain, topic) {
			out = append(out, Remark{From: at[0], To: at[1], Rule: Unmeasured, Why: "Nothing was measured of it here.", Offer: "say that it was not tested, or who says so"})
			return out
		}
	}
	return out
}

// notTested are ways of saying that something was not looked at.
var notTested = regexp.MustCompile(`\b(not (test|look|measure|check|try|part)\w*|nobody (tested|measured)|no (figure|word|print)|not on record|(its|the) maker (says|claims|states)|is claimed|are claimed|claims)\b`)

// likeName is a word with a number or a single capital after it, as models are named.
var likeName = regexp.MustCompile(`\b[A-Z][a-z]{2,}(?: [A-Z][a-z]+)? (?:\d+[A-Za-z]*|[A-Z]\d*|Pro|Max|Mini|Plus|Ultra)\b`)

// noName are words that stand before numbers and name no machine.
var noName = []string{"Table", "Figure", "Step", "Page", "Part", "Print", "Prints", "Panel", "Plate", "Day", "Week", "Room", "Chapter", "January", "February", "March", "April", "May", "June", "July", "August", "September", "October", "November", "December",
	"The", "With", "After", "Before", "From", "Only", "About", "All", "And", "But", "Of", "On", "In", "At", "Over", "Each", "Between", "Every", "These", "Those", "Another", "Where", "When", "Our", "Their", "Some", "Just", "Nearly", "Almost", "Then", "There"}

func names(s sentence, c Context) (out []Remark) {
	masked := s.text
	for _, name := range c.Names {
		if name != "" {
			masked = blank(masked, wordsOf(masked, name))
		}
	}
	masked = blank(masked, live.FindAllStringIndex(masked, -1))
	for _, at := range likeName.FindAllStringIndex(masked, -1) {
		words := strings.Fields(masked[at[0]:at[1]])
		if slices.Contains(noName, words[len(words)-2]) {
			continue // Table 3, November 2026
		}
		first, rest, _ := strings.Cut(masked[at[0]:at[1]], " ")
		if slices.Contains(noName, first) {
			if !likeName.MatchString(rest) { // the 24, but not the Heron 24
				continue
			}
			at[0] += len(first) + 1
		}
		out = append(out, Remark{From: at[0], To: at[1], Rule: Name, Why: "It is not in the record: no print of it was made here.", Offer: "name what it rests on, or leave it out"})
	}
	return out
}
