// Package shorthand reads the commonest things said at a bench as one line of words, such as
// "top up 60 on Harrow", "weigh B3 412 g", "R-041 done 2h05 all whole but 3 and 7" or "relevel
// Tern closer". It says what a line means or why it means nothing, and never guesses: a name
// that could be two things, a number without its thing and a word too many are refused. It
// knows no record; names come in, and what a line may do is decided where it is kept.
package shorthand

import (
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
)

// What a line does.
const (
	TopUp = "top_up" // ML were poured into the vat of a machine or print
	Weigh = "weigh"  // a bottle weighs Grams
	End   = "end"    // a print ended, or its copies are judged, or both
	Knot  = "knot"   // something happened to a machine
	Note  = "note"   // words about what prints on a machine
	Room  = "room"   // what the room of a print has
)

// Most is how many bytes a line may have.
const Most = 300

// Name is a thing that a line may be about, by its code and its name.
type Name struct{ ID, Code, Name string }

// Names are the things there are; plates are those that nothing printed yet.
type Names struct{ Machines, Bottles, Runs, Plates []Name }

// Line is what a line means. TookS is how long a print took, in s; nil where the line does not
// say. Whole says that all copies are whole but those in But, counted from 1.
type Line struct {
	Does      string
	MachineID string
	BottleID  string
	RunID     string
	PlateID   string // a plate that was printed as planned, and is put on record with its end
	ML        float64
	Grams     float64
	Ended     string // finished or stopped; empty where only copies are judged
	TookS     *float64
	Whole     bool
	But       []int64
	Knot      string // a kind of knot
	Note      string
	RoomC     *float64
	// HumidityPct is the relative humidity of a room, in %; nil where the line does not say.
	HumidityPct *float64
}

// Help is how lines are said.
const Help = `Say it like "top up 60 on Harrow", "weigh B3 412 g", "R-041 done 2h05 all whole but 3 and 7", "T-12 done 2h05 all whole" of a plate that was printed as planned, "relevel Tern closer", "room 22.5 48 % on Harrow" or "note Harrow smells".`

// ErrNothing says that a line begins like none that is known.
var ErrNothing = errors.New("begins like nothing that is known")

// knots are the words that name a knot, the longest first.
var knots = []struct {
	words []string
	kind  string
}{
	{[]string{"new", "film"}, "film"}, {[]string{"change", "film"}, "film"}, {[]string{"clean", "vat"}, "vat_clean"}, {[]string{"cleaned", "vat"}, "vat_clean"},
	{[]string{"set", "zero"}, "zero"}, {[]string{"relevel"}, "relevel"}, {[]string{"releveled"}, "relevel"}, {[]string{"relevelled"}, "relevel"}, {[]string{"level"}, "relevel"},
	{[]string{"zero"}, "zero"}, {[]string{"move"}, "move"}, {[]string{"moved"}, "move"}, {[]string{"film"}, "film"},
}

// Read says what a line means.
func Read(text string, names Names) (Line, error) {
	if len(text) > Most {
		return Line{}, fmt.Errorf("is %d long; a line has at most %d", len(text), Most)
	}
	words := strings.Fields(text)
	if len(words) == 0 {
		return Line{}, ErrNothing
	}
	if rest, ok := after(words, "top", "up"); ok {
		return readTopUp(rest, names)
	}
	if rest, ok := after(words, "topup"); ok {
		return readTopUp(rest, names)
	}
	if rest, ok := after(words, "weigh"); ok {
		return readWeigh(rest, names)
	}
	if rest, ok := after(words, "room"); ok {
		return readRoom(rest, names)
	}
	if rest, ok := after(words, "note"); ok {
		return readNote(rest, names)
	}
	for _, k := range knots {
		if rest, ok := after(words, k.words...); ok {
			return readKnot(rest, k.kind, names)
		}
	}
	if run, used, err := find(words, names.Runs, "print"); err == nil {
		if air, ok := after(words[used:], "room"); ok {
			line, rest, err := readAir(air)
			if err != nil {
				return Line{}, err
			}
			line.RunID = run.ID
			return line, nothing(rest)
		}
		return readEnd(words[used:], run)
	}
	if plate, used, err := find(words, names.Plates, "plate"); err == nil {
		return readPlate(words[used:], plate)
	}
	if bottle, used, err := find(words, names.Bottles, "bottle"); err == nil && len(words) > used {
		return readGrams(words[used:], bottle)
	}
	return Line{}, ErrNothing
}

// after gives what follows words that a line begins with.
func after(words []string, begin ...string) ([]string, bool) {
	if len(words) < len(begin) {
		return nil, false
	}
	for i, b := range begin {
		if !strings.EqualFold(words[i], b) {
			return nil, false
		}
	}
	return words[len(begin):], true
}

// find is the thing that words begin with, by its code or by the first words of its name, and
// how many words name it. The longest naming counts; two things named alike are an error.
func find(words []string, names []Name, what string) (Name, int, error) {
	most := 0
	var found []Name
	for _, n := range names {
		used := 0
		if len(words) > 0 && sameCode(bare(words[0]), n.Code) {
			used = 1
		}
		called := strings.Fields(n.Name)
		for used < len(words) && used < len(called) && strings.EqualFold(bare(words[used]), called[used]) {
			used++
		}
		switch {
		case used == 0 || used < most:
		case used > most:
			most, found = used, []Name{n}
		default:
			found = append(found, n)
		}
	}
	switch {
	case len(found) == 1:
		return found[0], most, nil
	case len(found) > 1:
		called := []string{}
		for _, n := range found {
			called = append(called, n.Code+" "+n.Name)
		}
		return Name{}, 0, fmt.Errorf("could mean %s; say more of its name, or its code", strings.Join(called, " or "))
	case len(words) == 0:
		return Name{}, 0, fmt.Errorf("names no %s", what)
	}
	return Name{}, 0, fmt.Errorf("names no %s that is known: %q", what, strings.Join(words, " "))
}

// bare is a word without the colon that ends a name.
func bare(word string) string { return strings.TrimSuffix(word, ":") }

// sameCode reads codes as they are typed in haste: r41 is R-041, b3 is B3.
func sameCode(typed, code string) bool {
	if strings.EqualFold(typed, code) {
		return true
	}
	letters, digits := parts(typed)
	ownLetters, ownDigits := parts(code)
	return letters != "" && digits != "" && strings.EqualFold(letters, ownLetters) && digits == ownDigits
}

// parts are the letters of a code and its number without leading noughts; empty where it is
// not letters, perhaps a dash, and digits.
func parts(code string) (letters, digits string) {
	at := strings.IndexAny(code, "-0123456789")
	if at < 1 {
		return "", ""
	}
	digits = strings.TrimLeft(strings.TrimPrefix(code[at:], "-"), "0")
	if digits == "" || strings.Trim(digits, "0123456789") != "" {
		return "", ""
	}
	return code[:at], digits
}

// number reads a number above 0 with a decimal point or comma, with its unit joined or after it.
func number(words []string, unit string) (float64, []string, error) {
	if len(words) == 0 {
		return 0, nil, fmt.Errorf("lacks how many %s", unit)
	}
	typed := strings.TrimSuffix(strings.ToLower(words[0]), unit)
	v, err := strconv.ParseFloat(strings.Replace(typed, ",", ".", 1), 64)
	if err != nil || !(v > 0) || v > 1e6 {
		return 0, nil, fmt.Errorf("has %q where it should say how many %s", words[0], unit)
	}
	rest := words[1:]
	if len(rest) > 0 && strings.EqualFold(rest[0], unit) {
		rest = rest[1:]
	}
	return v, rest, nil
}

// without drops the small words between a thing and its name.
func without(words []string) []string {
	if len(words) > 0 && slices.Contains([]string{"on", "in", "at", "of", "for", "the"}, strings.ToLower(words[0])) {
		return without(words[1:])
	}
	return words
}

func readTopUp(words []string, names Names) (Line, error) {
	ml, rest, err := number(words, "ml")
	if err != nil {
		return Line{}, err
	}
	rest = without(rest)
	out := Line{Does: TopUp, ML: ml}
	if run, used, err := find(rest, names.Runs, "print"); err == nil {
		out.RunID = run.ID
		return out, nothing(rest[used:])
	}
	machine, used, err := find(rest, names.Machines, "machine")
	if err != nil {
		return Line{}, err
	}
	out.MachineID = machine.ID
	return out, nothing(rest[used:])
}

func nothing(rest []string) error {
	if len(rest) > 0 {
		return fmt.Errorf("goes on with %q, which means nothing there", strings.Join(rest, " "))
	}
	return nil
}

func readWeigh(words []string, names Names) (Line, error) {
	words = without(words)
	bottle, used, err := find(words, names.Bottles, "bottle")
	if err != nil {
		return Line{}, err
	}
	return readGrams(words[used:], bottle)
}

func readGrams(words []string, bottle Name) (Line, error) {
	grams, rest, err := number(words, "g")
	if err != nil {
		return Line{}, err
	}
	return Line{Does: Weigh, BottleID: bottle.ID, Grams: grams}, nothing(rest)
}

func readNote(words []string, names Names) (Line, error) {
	words = without(words)
	out := Line{Does: Note}
	rest := words
	if run, used, err := find(words, names.Runs, "print"); err == nil {
		out.RunID, rest = run.ID, words[used:]
	} else {
		machine, used, err := find(words, names.Machines, "machine")
		if err != nil {
			return Line{}, err
		}
		out.MachineID, rest = machine.ID, words[used:]
	}
	if out.Note = strings.TrimLeft(strings.Join(rest, " "), ": "); out.Note == "" {
		return Line{}, errors.New("lacks what is noted")
	}
	return out, nil
}

func readKnot(words []string, kind string, names Names) (Line, error) {
	words = without(words)
	machine, used, err := find(words, names.Machines, "machine")
	if err != nil {
		return Line{}, err
	}
	return Line{Does: Knot, MachineID: machine.ID, Knot: kind, Note: strings.TrimLeft(strings.Join(words[used:], " "), ": ")}, nil
}
