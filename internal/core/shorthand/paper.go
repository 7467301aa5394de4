package shorthand

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// Rungs reads which rungs of a ladder came out, as they were ticked on paper: "all", "none", the
// sizes in mm that did ("0,4 0,5"), or "all but" those that did not. The answer stands in the order
// of sizesMM. An error says what is no rung.
func Rungs(text string, sizesMM []float64) ([]bool, error) {
	words := strings.Fields(strings.ToLower(strings.NewReplacer(";", " ", "/", " ", " and ", " ").Replace(text)))
	out := make([]bool, len(sizesMM))
	but := false
	switch {
	case len(words) == 0:
		return nil, fmt.Errorf("nothing is written")
	case words[0] == "none" && len(words) == 1:
		return out, nil
	case words[0] == "all":
		for i := range out {
			out[i] = true
		}
		if len(words) == 1 {
			return out, nil
		}
		if words[1] != "but" || len(words) == 2 {
			return nil, fmt.Errorf("%.40q: write all, or all but the sizes that did not come out", text)
		}
		but, words = true, words[2:]
	}
	for _, w := range words {
		mm, err := strconv.ParseFloat(strings.TrimSuffix(strings.Replace(w, ",", ".", 1), "mm"), 64)
		i := slices.IndexFunc(sizesMM, func(size float64) bool { return quantity.Equal(size, mm) })
		if err != nil || i < 0 {
			return nil, fmt.Errorf("%.20q is no rung; they are %s mm, or write all, none, or all but those that did not come out", w, rungNames(sizesMM))
		}
		out[i] = !but
	}
	return out, nil
}

func rungNames(sizesMM []float64) string {
	names := make([]string, len(sizesMM))
	for i, mm := range sizesMM {
		names[i] = say.Figures(mm, 6)
	}
	return say.List(names)
}

// State reads how a checkpoint was found, by its word or the first letter of it.
func State(text string) (string, error) {
	word := strings.ToLower(strings.TrimSpace(text))
	for _, state := range []string{"present", "damaged", "missing"} {
		if word != "" && strings.HasPrefix(state, word) {
			return state, nil
		}
	}
	return "", fmt.Errorf("%.20q is no state; write p for present, d for damaged or m for missing", text)
}
