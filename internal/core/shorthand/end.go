package shorthand

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
)

// readEnd reads what a print came to: done or stopped, how long it took, which copies are whole.
func readEnd(words []string, run Name) (Line, error) {
	out := Line{Does: End, RunID: run.ID}
	if len(words) > 0 {
		switch strings.ToLower(words[0]) {
		case "done", "finished":
			out.Ended = "finished"
		case "stopped":
			out.Ended = "stopped"
		}
		if out.Ended != "" {
			words = words[1:]
		}
	}
	if len(words) > 0 && out.Ended != "" {
		s, used, err := duration(words)
		if err != nil {
			return Line{}, err
		}
		if used > 0 {
			out.TookS, words = &s, words[used:]
		}
	}
	if len(words) > 0 {
		var err error
		if out.But, err = wholeBut(words); err != nil {
			return Line{}, err
		}
		out.Whole = true
	}
	if out.Ended == "" && !out.Whole {
		return Line{}, fmt.Errorf("does not say what became of %s: done, stopped, or all whole but 3 and 7", run.Code)
	}
	return out, nil
}

// readPlate reads that a plate was printed: as readEnd does, with how long it took, since nothing
// else says when it began.
func readPlate(words []string, plate Name) (Line, error) {
	line, err := readEnd(words, plate)
	switch {
	case err != nil:
		return Line{}, err
	case line.Ended == "" || line.TookS == nil:
		return Line{}, fmt.Errorf("does not say how long %s printed: done 2h05, or stopped 0h40", plate.Code)
	}
	line.RunID, line.PlateID = "", plate.ID
	return line, nil
}

// wholeBut reads "all whole", alone or with "but 3, 5-6 and 8".
func wholeBut(words []string) ([]int64, error) {
	rest, ok := after(words, "all", "whole")
	if !ok {
		if rest, ok = after(words, "whole"); !ok {
			return nil, fmt.Errorf("has %q where it should say \"all whole\", or \"all whole but 3 and 7\"", strings.Join(words, " "))
		}
	}
	if len(rest) == 0 {
		return nil, nil
	}
	list, ok := after(rest, "but")
	if !ok {
		if list, ok = after(rest, "except"); !ok {
			return nil, nothing(rest)
		}
	}
	var out []int64
	for _, word := range strings.FieldsFunc(strings.Join(list, " "), func(r rune) bool { return r == ' ' || r == ',' }) {
		if strings.EqualFold(word, "and") {
			continue
		}
		low, high, span := strings.Cut(word, "-")
		if !span {
			high = low
		}
		from, err1 := strconv.ParseInt(low, 10, 64)
		to, err2 := strconv.ParseInt(high, 10, 64)
		if err1 != nil || err2 != nil || from < 1 || to < from || to-from > 999 {
			return nil, fmt.Errorf("has %q where it should number a copy", word)
		}
		for n := from; n <= to; n++ {
			if !slices.Contains(out, n) {
				out = append(out, n)
			}
		}
	}
	if len(out) == 0 {
		return nil, fmt.Errorf("does not say which copies are not whole")
	}
	slices.Sort(out)
	return out, nil
}

// duration reads 2h05, 2h, 2:05, 125min or 125 min, in s; used is 0 where no time stands first.
func duration(words []string) (s float64, used int, err error) {
	word := strings.ToLower(words[0])
	if word[0] < '0' || word[0] > '9' {
		return 0, 0, nil
	}
	wrong := fmt.Errorf("has %q where it should say how long it took: 2h05, 2:05 or 125 min", words[0])
	if minutes, joined := strings.CutSuffix(word, "min"); joined || len(words) > 1 && strings.EqualFold(words[1], "min") {
		if used = 2; joined {
			used = 1
		}
		m, err := whole(minutes, 100_000)
		if err != nil || m == 0 {
			return 0, 0, wrong
		}
		return m * 60, used, nil
	}
	hours, minutes, timed := strings.Cut(word, "h")
	if !timed {
		if hours, minutes, timed = strings.Cut(word, ":"); !timed || minutes == "" {
			return 0, 0, wrong
		}
	}
	h, err := whole(hours, 1000)
	if err != nil {
		return 0, 0, wrong
	}
	m := 0.0
	if minutes != "" {
		if m, err = whole(minutes, 59); err != nil {
			return 0, 0, wrong
		}
	}
	if h == 0 && m == 0 {
		return 0, 0, wrong
	}
	return h*3600 + m*60, 1, nil
}

// Duration reads how long something took, in s: 2h05, 2:05 or 125 min, and nothing after it.
func Duration(text string) (float64, error) {
	words := strings.Fields(text)
	if len(words) > 0 {
		s, used, err := duration(words)
		if err == nil && used == len(words) {
			return s, nil
		}
	}
	return 0, fmt.Errorf("%.40q is no time; write 2h05, 2:05 or 125 min", text)
}

// WholeBut reads which copies of a print are not whole, rising: none in "all whole" or "all",
// those numbered in "all whole but 3, 5-6" or "all but 3".
func WholeBut(text string) ([]int64, error) {
	words := strings.Fields(text)
	if len(words) > 0 && strings.EqualFold(words[0], "all") && (len(words) == 1 || !strings.EqualFold(words[1], "whole")) {
		words = slices.Insert(words, 1, "whole")
	}
	return wholeBut(words)
}

// whole reads a count from 0 to most.
func whole(text string, most int64) (float64, error) {
	v, err := strconv.ParseInt(text, 10, 64)
	if err != nil || v < 0 || v > most {
		return 0, strconv.ErrSyntax
	}
	return float64(v), nil
}
