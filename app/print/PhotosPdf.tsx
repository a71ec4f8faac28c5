import { Image, StyleSheet, Text, View } from "@react-pdf/renderer";
import type { PrintedPhoto } from "../crew/photos.server";

const styles = StyleSheet.create({
  heading: { fontSize: 11, fontWeight: 700, marginTop: 10, marginBottom: 3 },
  photos: { flexDirection: "row", flexWrap: "wrap", gap: 6, marginTop: 6 },
  photo: { width: 165 },
  quiet: { color: "#5b676e", fontSize: 8.5 },
});

/** Photographs with their names and days; nothing without any. */
export function PhotosPdf({ photos }: { photos: readonly PrintedPhoto[] }) {
  if (photos.length === 0) return null;
  return (
    <>
      <Text style={styles.heading}>Photographed</Text>
      <View style={styles.photos}>
        {photos.map(({ name, data, at }) => (
          <View key={name + at} style={styles.photo} wrap={false}>
            <Image src={{ data: Buffer.from(data), format: "jpg" }} />
            <Text style={styles.quiet}>
              {name} {at?.slice(0, 10) ?? ""}
            </Text>
          </View>
        ))}
      </View>
    </>
  );
}
