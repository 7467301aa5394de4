package mesh

import (
	"bytes"
	"fmt"
	"math"
	"strconv"
)

// mostTriangles bounds a mesh after all its parts are placed: 288 MB of
// corners, above what the largest upload holds as binary STL.
const mostTriangles = 8 << 20

// Read reads STL of both kinds, 3MF or OBJ, told apart by what the file holds
// and not by its name. A file that is none of them, ends early or holds corners
// that are no place is an error that names the byte, line, triangle or part.
// Memory stays within a bound however far a packed file claims to unpack.
func Read(data []byte) (*Mesh, error) {
	switch {
	case bytes.HasPrefix(data, []byte("PK")):
		return Read3MF(data)
	case looksOBJ(data):
		return ReadOBJ(data)
	}
	return ReadSTL(data)
}

// objWords begin the lines of an OBJ file.
var objWords = map[string]bool{"v": true, "vt": true, "vn": true, "vp": true, "f": true, "o": true, "g": true, "s": true, "mtllib": true, "usemtl": true}

// looksOBJ reports text whose first line that is no comment begins with a word
// of OBJ.
func looksOBJ(data []byte) bool {
	head := data[:min(len(data), 4096)]
	if bytes.IndexByte(head, 0) >= 0 {
		return false
	}
	for len(head) > 0 {
		var line []byte
		line, head, _ = bytes.Cut(head, []byte("\n"))
		words := bytes.Fields(line)
		if len(words) > 0 && words[0][0] != '#' {
			return objWords[string(words[0])]
		}
	}
	return false
}

// ReadOBJ reads the vertices and faces of an OBJ file; faces of more than three
// corners are cut into fans. Lines, curves, normals and materials are passed
// over. Corners may count from the end (−1 is the last).
func ReadOBJ(data []byte) (*Mesh, error) {
	m := &Mesh{Format: "obj"}
	var vertices [][3]float32
	var corners []int
	for line := 1; len(data) > 0; line++ {
		var text []byte
		text, data, _ = bytes.Cut(data, []byte("\n"))
		words := bytes.Fields(text)
		for len(words) > 0 && bytes.HasSuffix(words[len(words)-1], []byte(`\`)) && len(data) > 0 {
			if words[len(words)-1] = bytes.TrimSuffix(words[len(words)-1], []byte(`\`)); len(words[len(words)-1]) == 0 {
				words = words[:len(words)-1]
			}
			text, data, _ = bytes.Cut(data, []byte("\n"))
			words = append(words, bytes.Fields(text)...)
			line++
		}
		if len(words) == 0 {
			continue
		}
		switch string(words[0]) {
		case "v":
			var v [3]float32
			if len(words) < 4 {
				return nil, fmt.Errorf("line %d: a vertex has %d numbers; it needs three", line, len(words)-1)
			}
			if err := parseVertex(words[1:4], &v); err != nil {
				return nil, fmt.Errorf("line %d: %w", line, err)
			}
			vertices = append(vertices, v)
		case "f":
			var err error
			if corners, err = parseFace(words[1:], len(vertices), corners[:0]); err != nil {
				return nil, fmt.Errorf("line %d: %w", line, err)
			}
			for i := 2; i < len(corners); i++ {
				m.Triangles = append(m.Triangles, Triangle{vertices[corners[0]], vertices[corners[i-1]], vertices[corners[i]]})
			}
			if len(m.Triangles) > mostTriangles {
				return nil, tooMany(len(m.Triangles))
			}
		}
	}
	if len(m.Triangles) == 0 {
		return nil, fmt.Errorf("holds no faces; export the model again")
	}
	return m, nil
}

func tooMany(n int) error {
	return fmt.Errorf("holds %d triangles or more; up to %d are read, reduce the model in your software", n, mostTriangles)
}

// parseFace reads corners such as 3, 3/1 or 3//2 and turns them into places in
// the list of vertices read so far.
func parseFace(words [][]byte, vertices int, out []int) ([]int, error) {
	if len(words) < 3 {
		return nil, fmt.Errorf("a face has %d corners; it needs three", len(words))
	}
	for _, w := range words {
		number, _, _ := bytes.Cut(w, []byte("/"))
		i, err := strconv.Atoi(string(number))
		if err != nil || i == 0 || i > vertices || -i > vertices {
			return nil, fmt.Errorf("corner %.20q points to none of the %d vertices before it", w, vertices)
		}
		if i < 0 {
			i += vertices + 1
		}
		out = append(out, i-1)
	}
	return out, nil
}

// finite reports coordinates that are places on any plate.
func finite(p [3]float64) bool {
	for _, v := range p {
		if math.IsNaN(v) || math.Abs(v) > largestMM {
			return false
		}
	}
	return true
}
