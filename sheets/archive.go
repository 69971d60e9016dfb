package sheets

import (
	"archive/zip"
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"path"
	"slices"
	"strings"

	"cinderpath/core/document"
	"cinderpath/core/measure"
)

// An archive is a zip of a whole workshop: workshop.json is a document without builds,
// builds/ holds a document of each build, files/ the photographs and meshes by the hash of
// their content. Any of the documents can be imported by itself.
const (
	archiveShop   = "workshop.json"
	archiveBuilds = "builds/"
	archiveFiles  = "files/"
	// largestText is the largest document of an archive, bytes.
	largestText = 64 << 20
	// mostBuilds is how many builds an archive may hold.
	mostBuilds = 5_000
)

// endings are the names of the kinds of file that a workshop keeps.
var endings = map[string]string{"image/png": ".png", "image/jpeg": ".jpg", "model/stl": ".stl"}

// ArchiveFile is a photograph or mesh in an archive.
type ArchiveFile struct {
	Hash  string // SHA-256 of its content, hex
	Media string
	Size  int64
	in    *zip.File
}

// Open reads the file's content.
func (f ArchiveFile) Open() (io.ReadCloser, error) { return f.in.Open() }

// WriteArchive writes a whole workshop. A file is asked for when its turn comes.
func WriteArchive(
	w io.Writer,
	d Document,
	files []ArchiveFile,
	content func(f ArchiveFile, w io.Writer) error,
) error {
	z := zip.NewWriter(w)
	text := func(name string, d Document) error {
		part, err := z.Create(name)
		if err != nil {
			return err
		}
		return Write(part, d)
	}
	items := d.Items
	d.Items, d.Focus = []document.Item{}, ""
	if err := text(archiveShop, d); err != nil {
		return err
	}
	for i, item := range items {
		d.Items, d.Focus = []document.Item{item}, item.Build.ID
		// The number keeps the order: builds of one priority stand in the order they were made.
		if err := text(fmt.Sprintf("%s%05d-%s.json", archiveBuilds, i, item.Build.ID), d); err != nil {
			return err
		}
	}
	for _, f := range files {
		// Pictures are packed already; meshes are not.
		method := zip.Store
		if f.Media == "model/stl" {
			method = zip.Deflate
		}
		part, err := z.CreateHeader(&zip.FileHeader{Name: archiveFiles + f.Hash + endings[f.Media], Method: method})
		if err != nil {
			return err
		}
		if err := content(f, part); err != nil {
			return err
		}
	}
	return z.Close()
}

// Archive is a whole workshop, read and checked; its files are still in the zip.
type Archive struct {
	Document
	Files []ArchiveFile
}

func archiveFault(name, reason, remedy string) error {
	return &measure.Fault{Field: name, Reason: reason, Remedy: remedy}
}

// ReadArchive reads the documents of an archive and holds every file against its hash, so
// that nothing is kept of one that is cut short or was meddled with.
func ReadArchive(r io.ReaderAt, size int64) (Archive, error) {
	z, err := zip.NewReader(r, size)
	if err != nil {
		return Archive{}, archiveFault(
			"archive",
			"it is not a zip, or was cut short: "+err.Error(),
			"copy it again from where it was made",
		)
	}
	a := Archive{}
	whole := false
	slices.SortStableFunc(z.File, func(a, b *zip.File) int { return strings.Compare(a.Name, b.Name) })
	for _, f := range z.File {
		switch {
		case strings.HasSuffix(f.Name, "/"):
		case f.Name == archiveShop:
			d, err := archived(f)
			if err != nil {
				return Archive{}, err
			}
			whole = true
			d.Items = a.Items
			a.Document = d
		case strings.HasPrefix(f.Name, archiveBuilds):
			d, err := archived(f)
			if err != nil {
				return Archive{}, err
			}
			a.Items = append(a.Items, d.Items...)
		case strings.HasPrefix(f.Name, archiveFiles):
			file, err := checked(f)
			if err != nil {
				return Archive{}, err
			}
			a.Files = append(a.Files, file)
		default:
			return Archive{}, archiveFault(f.Name, "nothing of this name belongs into an archive", "leave it out")
		}
		if len(a.Items) > mostBuilds {
			return Archive{}, archiveFault("builds", fmt.Sprintf("more than %d builds", mostBuilds), "split the archive")
		}
	}
	if !whole {
		return Archive{}, archiveFault(archiveShop, "it is not in the archive", "choose an archive that this program made")
	}
	return a, a.check()
}

func archived(f *zip.File) (Document, error) {
	if f.UncompressedSize64 > largestText {
		return Document{}, archiveFault(
			f.Name,
			fmt.Sprintf("larger than %d MB", largestText>>20),
			"choose an archive that this program made",
		)
	}
	part, err := f.Open()
	if err != nil {
		return Document{}, broken(f.Name, err)
	}
	defer part.Close()
	data, err := io.ReadAll(io.LimitReader(part, largestText+1))
	if err != nil {
		return Document{}, broken(f.Name, err)
	}
	d, err := Read(bytes.NewReader(data))
	return d, measure.At(f.Name, err)
}

func broken(name string, err error) error {
	return archiveFault(
		name,
		"it cannot be read to its end: "+err.Error(),
		"copy the archive again from where it was made",
	)
}

// checked reads a file to its end and holds it against the hash that it is named by.
func checked(f *zip.File) (ArchiveFile, error) {
	name := path.Base(f.Name)
	file := ArchiveFile{in: f, Hash: strings.TrimSuffix(name, path.Ext(name)), Size: int64(f.UncompressedSize64)}
	for media, ending := range endings {
		if path.Ext(name) == ending {
			file.Media = media
		}
	}
	if file.Media == "" {
		return file, archiveFault(f.Name, "it is neither a photograph nor a mesh", "leave it out")
	}
	part, err := f.Open()
	if err != nil {
		return file, broken(f.Name, err)
	}
	defer part.Close()
	sum := sha256.New()
	// What claims to be short and is not is a trap.
	switch n, err := io.Copy(sum, io.LimitReader(part, file.Size+1)); {
	case errors.Is(err, zip.ErrChecksum) || err == nil && hex.EncodeToString(sum.Sum(nil)) != file.Hash:
		return file, archiveFault(f.Name, "its content is not what its name says", "copy the archive again")
	case err != nil:
		return file, broken(f.Name, err)
	case n != file.Size:
		return file, archiveFault(f.Name, "it is not as long as it says", "copy the archive again")
	}
	return file, nil
}
