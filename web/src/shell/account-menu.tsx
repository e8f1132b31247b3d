import { csrfToken } from "../api/client";
import { Menu } from "../ui/menu";

const SIGN_OUT = "/sign-out/";
const CHANGE_PASSWORD = "/password/";

/** Actions of a person's account. */
export function AccountMenu({ name }: { name: string }) {
  async function signOut() {
    await fetch(SIGN_OUT, { method: "POST", headers: { "X-CSRFToken": csrfToken() } });
    location.assign("/");
  }
  return (
    <Menu
      opener={name}
      label={`Account of ${name}`}
      look="max-w-40 truncate text-soft hover:text-ink"
      items={[
        ["Change password", () => location.assign(CHANGE_PASSWORD)],
        ["Sign out", signOut],
      ]}
    />
  );
}
