/** The page without a script in it, and without the name of what made it. */
const INLINE = /<script>window\.__NUXT__=.*?<\/script>/s

export default defineNitroPlugin((nitro) => {
  nitro.hooks.hook('render:html', (html) => {
    const whole = html.bodyAppend.join('')
    if (!INLINE.test(whole)) throw new Error('The page has no settings to take out: its form has changed.')
    html.bodyAppend = [whole.replace(INLINE, '<script src="/settings.js"></script>')]
  })
  nitro.hooks.hook('render:response', (response) => {
    if (response.headers) delete response.headers['x-powered-by']
  })
})
