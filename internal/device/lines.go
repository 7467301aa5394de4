// Package device is the bridge to what sends readings and progress in: it reads
// their messages, and ships stand-ins that behave like such devices. It knows no
// rule of the record: what a message does is decided in package work.
package device

import (
	"bufio"
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"strconv"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
)

// MostMessages bounds how many messages one request may carry.
const MostMessages = 2000

// jsonMessage is a message as a device writes it.
type jsonMessage struct {
	Session string   `json:"session"`
	Seq     int64    `json:"seq"`
	AtMS    int64    `json:"at_ms"`
	Kind    string   `json:"kind"`
	Value   *float64 `json:"value,omitempty"`
	Unit    string   `json:"unit,omitempty"`
	State   string   `json:"state,omitempty"`
	Layer   *int64   `json:"layer,omitempty"`
	Note    string   `json:"note,omitempty"`
}

// ReadJSON reads one message after another, with or without line ends between
// them. An error names the message by its place, from 0.
func ReadJSON(data []byte) ([]bench.DeviceMessage, error) {
	decoder := json.NewDecoder(bytes.NewReader(data))
	var out []bench.DeviceMessage
	for {
		var m jsonMessage
		err := decoder.Decode(&m)
		if err == io.EOF {
			return out, enough(out)
		}
		if err != nil {
			return nil, quantity.Errorf(fmt.Sprintf("messages[%d]", len(out)), "is no message (%v); see docs/devices.md", err)
		}
		if len(out) == MostMessages {
			return nil, quantity.Errorf("messages", "are more than %d; send them in several requests", MostMessages)
		}
		out = append(out, bench.DeviceMessage{Session: m.Session, Seq: m.Seq, AtMS: m.AtMS, Kind: m.Kind, Value: m.Value, Unit: m.Unit, State: m.State, Layer: m.Layer, Note: m.Note})
	}
}

// WriteJSON is what ReadJSON reads, one message a line.
func WriteJSON(messages []bench.DeviceMessage) ([]byte, error) {
	var out bytes.Buffer
	encoder := json.NewEncoder(&out)
	for _, m := range messages {
		if err := encoder.Encode(jsonMessage{Session: m.Session, Seq: m.Seq, AtMS: m.AtMS, Kind: m.Kind, Value: m.Value, Unit: m.Unit, State: m.State, Layer: m.Layer, Note: m.Note}); err != nil {
			return nil, err
		}
	}
	return out.Bytes(), nil
}

// ReadLines reads messages of plain words, one a line, as a small controller
// writes them without a library:
//
//	SESSION SEQ AT_MS reading VALUE UNIT
//	SESSION SEQ AT_MS STATE [LAYER [LAYERS]]
//
// A comma serves as decimal point. Blank lines and lines after # are passed over.
func ReadLines(data []byte) ([]bench.DeviceMessage, error) {
	lines := bufio.NewScanner(bytes.NewReader(data))
	var out []bench.DeviceMessage
	for n := 1; lines.Scan(); n++ {
		line, _, _ := strings.Cut(lines.Text(), "#")
		words := strings.Fields(line)
		if len(words) == 0 {
			continue
		}
		m, err := readLine(words)
		if err != nil {
			return nil, quantity.Errorf(fmt.Sprintf("line %d", n), "%v; see docs/devices.md", err)
		}
		if len(out) == MostMessages {
			return nil, quantity.Errorf("messages", "are more than %d; send them in several requests", MostMessages)
		}
		out = append(out, m)
	}
	if err := lines.Err(); err != nil {
		return nil, quantity.Errorf("messages", "cannot be read (%v)", err)
	}
	return out, enough(out)
}

func enough(messages []bench.DeviceMessage) error {
	if len(messages) == 0 {
		return quantity.Errorf("messages", "are missing; send at least one")
	}
	return nil
}

func readLine(words []string) (m bench.DeviceMessage, err error) {
	if len(words) < 4 {
		return m, fmt.Errorf("has %d words, not SESSION SEQ AT_MS and what is said", len(words))
	}
	m.Session = words[0]
	if m.Seq, err = strconv.ParseInt(words[1], 10, 64); err != nil {
		return m, fmt.Errorf("has %q where the count of the message stands", words[1])
	}
	if m.AtMS, err = strconv.ParseInt(words[2], 10, 64); err != nil {
		return m, fmt.Errorf("has %q where the milliseconds stand", words[2])
	}
	rest := words[4:]
	if words[3] == "reading" {
		return readReading(m, rest)
	}
	m.Kind, m.State = "state", words[3]
	if len(rest) > 2 {
		return m, fmt.Errorf("has %d words after the state, not a layer and the number of layers", len(rest))
	}
	for i, word := range rest {
		n, err := strconv.ParseInt(word, 10, 64)
		if err != nil {
			return m, fmt.Errorf("has %q where a layer stands", word)
		}
		if i == 0 {
			m.Layer = &n
		} else {
			m.Value, m.Unit = quantity.Ptr(float64(n)), "layers"
		}
	}
	return m, nil
}

func readReading(m bench.DeviceMessage, rest []string) (bench.DeviceMessage, error) {
	if len(rest) != 2 {
		return m, fmt.Errorf("has %d words after reading, not a value and its unit", len(rest))
	}
	v, err := strconv.ParseFloat(strings.Replace(rest[0], ",", ".", 1), 64)
	if err != nil {
		return m, fmt.Errorf("has %q where the value stands", rest[0])
	}
	m.Kind, m.Value, m.Unit = "reading", &v, rest[1]
	return m, nil
}
