/** Links to what the field cards need at once, as a page's head has them; made by the build. */
declare module '#first-links' {
  const links: string
  export default links
}
